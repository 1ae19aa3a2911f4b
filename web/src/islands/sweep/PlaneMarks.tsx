import { useStore } from '@nanostores/react';
import { useSweep } from './context.ts';
import type { Swept } from './measuring.ts';
import { type PlaneMark, useMarks } from './useMarks.ts';

/** Pixels of a name's letter, about. */
const LETTER = 6.4;

/** Tunings on the plane: this one as it is, others, and revisions, each with its own mark. Names that would lie on others are left out. */
export function PlaneMarks({ swept, sx, sy, wide, tall }: { swept: Swept; sx: number; sy: number; wide: number; tall: number }) {
  const { $layers } = useSweep();
  const marks = useMarks(swept, useStore($layers));
  const taken: [number, number, number][] = [];
  return marks.map(({ is, x, y, name }, i) => {
    const [px, py] = [x * sx, y * sy];
    const long = name.length * LETTER;
    const isLeft = px + long + 14 > wide;
    const [from, to] = isLeft ? [px - 10 - long, px - 10] : [px + 10, px + 10 + long];
    const above = py > tall - 14 || is === 'today' ? -9 : 0;
    const isOver = (a: number, b: number, mid: number) => Math.abs(mid - py - above) <= 13 && to >= a && from <= b;
    const isFree =
      !taken.some(([a, b, mid]) => isOver(a, b, mid)) &&
      !marks.some((other, j) => j !== i && isOver(other.x * sx - 6, other.x * sx + 6, other.y * sy));
    if (isFree) taken.push([from, to, py + above]);
    return (
      <g key={`${is} ${name} ${i}`} transform={`translate(${px} ${py})`} data-mark={is}>
        <Glyph is={is} />
        {isFree && (
          <text
            x={isLeft ? -10 : 10}
            y={above}
            textAnchor={isLeft ? 'end' : 'start'}
            dominantBaseline="central"
            fontSize="12"
            fontWeight={is === 'today' ? 600 : 400}
            fill={is === 'today' ? 'var(--ink)' : 'var(--other)'}
            stroke="var(--sheet)"
            strokeWidth="3"
            strokeOpacity="0.8"
            paintOrder="stroke"
          >
            {name}
          </text>
        )}
      </g>
    );
  });
}

function Glyph({ is }: Pick<PlaneMark, 'is'>) {
  if (is === 'today')
    return (
      <g stroke="var(--ink)" fill="none" strokeWidth="2">
        <circle r="6" fill="var(--sheet)" />
        <path d="M-10,0H10M0,-10V10" strokeWidth="1.2" />
      </g>
    );
  if (is === 'revision') return <path d="M0,-4.5L4.5,0L0,4.5L-4.5,0Z" fill="var(--sheet)" stroke="var(--other)" strokeWidth="1.4" />;
  return <rect x="-4" y="-4" width="8" height="8" fill="var(--sheet)" stroke="var(--other)" strokeWidth="2" />;
}
