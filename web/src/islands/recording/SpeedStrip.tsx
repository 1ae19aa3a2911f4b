import type { Reproduction } from '@zygopod/core';
import { significant } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';

const [WIDTH, SPEEDS, LANE, LEFT] = [1040, 110, 34, 46];
const HEIGHT = SPEEDS + LANE + 22;

const most = (values: Float64Array): number => values.reduce((one, other) => Math.max(one, other), 1e-9);

/** The speeds of a recording and of the model over time, the distance between both as a lane, and the stretches that don’t fit. */
export function SpeedStrip({ times, shown, unit }: { times: Float64Array; shown: Reproduction; unit: 'px' | 'm' }) {
  const [begin, end] = [times[0] as number, times.at(-1) as number];
  const x = scaleLinear([begin, end], [LEFT, WIDTH - 6]);
  const top = 1.1 * most(shown.recorded);
  const y = scaleLinear([0, top], [SPEEDS, 6]);
  const far = most(shown.apart);
  const lane = scaleLinear([0, far], [0, LANE - 4]);
  const path = line<number>(
    (_, i) => x(times[i] as number),
    (speed) => y(speed),
  );
  const bars = [...times]
    .map((time, i) => `M${x(time).toFixed(1)} ${SPEEDS + LANE}v${(-lane(shown.apart[i] as number)).toFixed(1)}`)
    .join('');
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full"
      role="img"
      aria-label={`Speed over time: the recording and the model; below, the distance between them, ${significant(far, 2)} ${unit} at most`}
      data-testid="recording-strip"
    >
      {shown.misfits.map(({ from, to }) => (
        <rect
          key={from}
          x={x(from)}
          width={Math.max(3, x(to) - x(from))}
          y={6}
          height={SPEEDS + LANE - 6}
          className="fill-now/10 stroke-now/50"
        />
      ))}
      {y.ticks(3).map((speed) => (
        <g key={speed}>
          <line x1={LEFT} x2={WIDTH - 6} y1={y(speed)} y2={y(speed)} className="stroke-rule" />
          <text x={LEFT - 6} y={y(speed) + 4} textAnchor="end" className="digits fill-ink-soft text-[11px]">
            {speed}
          </text>
        </g>
      ))}
      <path d={path([...shown.recorded]) ?? ''} className="fill-none stroke-route" strokeWidth={4} />
      <path d={path([...shown.driven]) ?? ''} className="fill-none stroke-ink" strokeWidth={1.25} />
      <path d={bars} className="stroke-now" strokeWidth={1.2} />
      <line x1={LEFT} x2={WIDTH - 6} y1={SPEEDS + LANE} y2={SPEEDS + LANE} className="stroke-rule" />
      <text x={LEFT - 6} y={SPEEDS + LANE / 2 + 8} textAnchor="end" className="digits fill-ink-soft text-[11px]">
        {significant(far, 2)}
      </text>
      {x.ticks(8).map((time) => (
        <text key={time} x={x(time)} y={HEIGHT - 5} textAnchor="middle" className="digits fill-ink-soft text-[11px]">
          {time} s
        </text>
      ))}
    </svg>
  );
}
