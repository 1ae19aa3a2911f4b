import { scaleLinear } from 'd3-scale';
import type { Motion } from '../../workers/sweep.ts';

/** Seconds between prints. */
const STRIDE = 0.1;
const WIDTH = 400;
const PRINTS = 78;
const SPEED = 92;
/** Points of a curve at most. */
const POINTS = 300;

/** Inks of the gaits: stand, walk, sprint, spent. */
const inks = ['var(--ink-soft)', 'var(--ink)', 'var(--now)', 'var(--stamina)'] as const;

/** The motion of a place and of the tuning as it is, in the drill of the metric: the prints, and the speeds over time. */
export function MotionPicture({ here, today }: { here: Motion | null; today: Motion | null }) {
  const own = here ?? today;
  if (!own) return null;
  return (
    <figure className="m-0">
      <Prints here={here} today={today} />
      <figcaption className="mt-1 flex justify-between text-xs text-ink-soft">
        <span className="truncate">Speed {own.title}</span>
        {here && <span>dashed: today</span>}
      </figcaption>
      <Speeds here={here} today={today} />
    </figure>
  );
}

/** Extent of a motion. */
const boxOf = ({ columns: { x, y } }: Motion) => ({ left: least(x), right: most(x), top: least(y), bottom: most(y) });
const least = (values: Float64Array) => values.reduce((low, value) => Math.min(low, value), Infinity);
const most = (values: Float64Array) => values.reduce((high, value) => Math.max(high, value), Number.NEGATIVE_INFINITY);

/** A motion that is drawn no higher than this is a line, which has a lane of its own. */
const LANE = 14;

/** One print for each tenth of a second, left and right in turn; where a motion is a line, today's is below it, else behind it. Both have one scale. */
function Prints({ here, today }: { here: Motion | null; today: Motion | null }) {
  const all = [...(today ? [{ motion: today, isHere: false }] : []), ...(here ? [{ motion: here, isHere: true }] : [])];
  const boxes = all.map(({ motion }) => boxOf(motion));
  const wide = Math.max(1e-6, ...boxes.map(({ left, right }) => right - left));
  const tall = Math.max(1e-6, ...boxes.map(({ top, bottom }) => bottom - top));
  const scale = Math.min((WIDTH - 36) / wide, (PRINTS - 28) / tall);
  const isLine = all.length > 1 && tall * scale <= LANE;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${PRINTS}`} aria-hidden="true" className="block w-full border border-rule bg-sheet" data-testid="prints">
      {all.map(({ motion, isHere }, i) => {
        const { left, top } = boxes[i] as ReturnType<typeof boxOf>;
        const lane = isLine ? PRINTS * (isHere ? 0.32 : 0.7) : (PRINTS - tall * scale) / 2;
        const place = (x: number, y: number): [number, number] => [18 + (x - left) * scale, lane + (y - top) * scale];
        return <Track key={isHere ? 'here' : 'today'} motion={motion} place={place} isHere={isHere || all.length === 1} />;
      })}
    </svg>
  );
}

function Track({ motion: { columns }, place, isHere }: { motion: Motion; place(x: number, y: number): [number, number]; isHere: boolean }) {
  const { x, y, time, facing, gait } = columns;
  const prints: { x: number; y: number; facing: number; gait: number; side: number }[] = [];
  let row = 0;
  for (let k = 0; k * STRIDE <= (time.at(-1) ?? 0); k++) {
    while (row + 1 < time.length && (time[row] as number) < k * STRIDE - 1e-9) row++;
    const [px, py] = place(x[row] as number, y[row] as number);
    const last = prints.at(-1);
    if (last && Math.abs(last.x - px) < 0.2 && Math.abs(last.y - py) < 0.2) continue;
    prints.push({
      x: px,
      y: py,
      facing: ((facing[row] as number) * Math.PI) / 180,
      gait: gait[row] as number,
      side: prints.length % 2 === 0 ? -1 : 1,
    });
  }
  const [endX, endY] = place(x.at(-1) as number, y.at(-1) as number);
  return (
    <g opacity={isHere ? 1 : 0.6}>
      {prints.map((print, i) => {
        const [c, s] = [Math.cos(print.facing), Math.sin(print.facing)];
        const [cx, cy] = [print.x - s * 4 * print.side, print.y + c * 4 * print.side];
        return (
          <line
            key={i}
            x1={cx - 3.4 * c}
            y1={cy - 3.4 * s}
            x2={cx + 3.4 * c}
            y2={cy + 3.4 * s}
            stroke={inks[print.gait] ?? inks[1]}
            strokeWidth="2"
          />
        );
      })}
      <circle cx={endX} cy={endY} r="7" fill="none" stroke="var(--ink)" strokeWidth="1.6" strokeDasharray={isHere ? undefined : '3 2'} />
    </g>
  );
}

function Speeds({ here, today }: { here: Motion | null; today: Motion | null }) {
  const all = [here, today].filter((one) => one !== null);
  const end = Math.max(...all.map(({ columns }) => columns.time.at(-1) as number));
  const fastest = Math.max(1e-6, ...all.map(({ columns: { speed } }) => most(speed)));
  const sx = scaleLinear()
    .domain([0, end])
    .range([2, WIDTH - 2]);
  const sy = scaleLinear()
    .domain([0, fastest * 1.15])
    .range([SPEED - 16, 4]);
  const line = ({ columns: { time, speed } }: Motion) => {
    const step = Math.max(1, Math.floor(time.length / POINTS));
    const rows = Array.from({ length: Math.ceil(time.length / step) }, (_, i) => Math.min(time.length - 1, i * step));
    return rows.map((row) => `${sx(time[row] as number).toFixed(1)},${sy(speed[row] as number).toFixed(1)}`).join(' ');
  };
  return (
    <svg viewBox={`0 0 ${WIDTH} ${SPEED}`} aria-hidden="true" className="block w-full">
      <line x1="2" x2={WIDTH - 2} y1={sy(0)} y2={sy(0)} stroke="var(--ink)" />
      {sx.ticks(5).map((tick) => (
        <text
          key={tick}
          x={sx(tick)}
          y={SPEED - 4}
          textAnchor={tick === 0 ? 'start' : sx(tick) > WIDTH - 16 ? 'end' : 'middle'}
          fontSize="10"
          className="digits"
          fill="var(--ink-soft)"
        >
          {tick} s
        </text>
      ))}
      {today && <polyline points={line(today)} fill="none" stroke="var(--ink)" strokeWidth="1.3" strokeDasharray="4 3" />}
      {here && <polyline points={line(here)} fill="none" stroke="var(--now)" strokeWidth="1.8" />}
    </svg>
  );
}
