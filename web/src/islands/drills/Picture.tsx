import { type Drawn, shapesOf } from './shapes.ts';

const WIDTH = 190;
const HEIGHT = 72;

/** A drill as a small drawing of its own runs. */
export function Picture({ width = WIDTH, height = HEIGHT, ...drawn }: Drawn & { width?: number; height?: number }) {
  const shapes = shapesOf(drawn, width, height);
  if (shapes.length === 0) return <div style={{ height }} />;
  return (
    <svg aria-hidden="true" width={width} height={height} viewBox={`0 0 ${width} ${height}`} className="block overflow-hidden">
      {shapes.map((shape, i) =>
        shape.is === 'dot' ? (
          <circle key={i} cx={shape.x} cy={shape.y} r={shape.radius} fill={shape.fill} stroke={shape.ink} strokeWidth={shape.wide} />
        ) : (
          <polyline
            key={i}
            points={shape.points}
            fill={shape.fill}
            stroke={shape.ink}
            strokeWidth={shape.wide}
            strokeLinejoin="round"
            strokeDasharray={shape.isDashed ? '4 3' : undefined}
          />
        ),
      )}
    </svg>
  );
}
