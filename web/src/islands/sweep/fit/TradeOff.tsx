import { type FrontPoint, type MetricKey, metricSpecOf, type Target, unitOf } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import type { KeyboardEvent } from 'react';
import { useScreens } from '../../work/place.ts';
import { driveFound } from '../actions.ts';
import { bandOf } from '../layout.ts';
import { metricWords } from '../words.ts';
import type { FitWork, FrontState } from './fitWork.ts';

/** Size and margins of the drawing, px. */
const [WIDE, TALL] = [300, 150];
const MARGIN = { top: 6, right: 14, bottom: 30, left: 44 };

type Whole = FrontPoint & { values: [number, number] };

/** The trade-off of two targets as a curve; a slider walks along it. */
export function TradeOff({
  fit,
  front,
  keys,
  targets,
}: {
  fit: FitWork;
  front: FrontState;
  keys: readonly string[];
  targets: readonly Target[];
}) {
  const { screens } = useScreens();
  const { sweep } = fit;
  const { unit = 'px' } = sweep.work.editing.$now.get();
  const { pair, points, at, why } = front;
  const choose = (place: 0 | 1, key: string) => void fit.tradeOff(pair.with(place, key) as [string, string]);
  const point = points?.[at];
  return (
    <section aria-label="Trade-off" className="mt-2 border-t border-rule pt-2" data-testid="trade-off" data-points={points?.length ?? 0}>
      <p className="flex items-center gap-1.5">
        {([0, 1] as const).map((place) => (
          <select
            key={place}
            aria-label={place === 0 ? 'Outcome across' : 'Outcome up'}
            className="min-h-6 min-w-0 flex-1"
            value={pair[place]}
            onChange={(event) => choose(place, event.target.value)}
          >
            {keys
              .filter((key) => key !== pair[1 - place])
              .map((key) => (
                <option key={key} value={key}>
                  {metricSpecOf(key).words}
                </option>
              ))}
          </select>
        ))}
      </p>
      {why !== null && <p className="text-now">▲ {why}</p>}
      {!points && why === null && <p className="text-ink-soft">Measuring the trade-off …</p>}
      {points && point && (
        <>
          <Drawing fit={fit} pair={pair} points={points} at={at} targets={targets} unit={unit} />
          <input
            type="range"
            aria-label="Place on the trade-off"
            aria-valuetext={pair
              .map((key, i) => `${metricSpecOf(key).words} ${metricWords(key as MetricKey, point.values[i] ?? undefined, unit)}`)
              .join(', ')}
            min={0}
            max={points.length - 1}
            value={at}
            className="w-full accent-now"
            onChange={(event) => fit.goTo(Number(event.target.value))}
            onKeyDown={(event: KeyboardEvent) => event.stopPropagation()}
          />
          <p className="digits text-xs">{fit.wordsOf(point.set) || 'The tuning as it is'}</p>
          {!point.othersMet && <p className="text-stamina-ink">◆ Another target is missed here.</p>}
          <p className="mt-1 flex gap-4">
            <button
              type="button"
              className="action min-h-6"
              onClick={() => void driveFound(sweep.work, { file: fit.fileWith(point.set), words: fit.wordsOf(point.set) }, screens)}
            >
              Drive this place
            </button>
            <button
              type="button"
              className="action min-h-6"
              onClick={() => sweep.work.editing.replace(fit.fileWith(point.set), `Trade-off: ${fit.wordsOf(point.set)}`)}
            >
              Apply this place
            </button>
          </p>
        </>
      )}
    </section>
  );
}

function Drawing({
  fit,
  pair,
  points,
  at,
  targets,
  unit,
}: {
  fit: FitWork;
  pair: [string, string];
  points: readonly FrontPoint[];
  at: number;
  targets: readonly Target[];
  unit: string;
}) {
  const known = points.filter((point): point is Whole => point.values.every((value) => value !== null));
  const bands = pair.map((key) => bandOf(targets, key as MetricKey));
  const spans = [0, 1].map((i) => {
    const band = bands[i];
    const ends = [band?.min, band?.max].filter((end) => end !== undefined);
    const all = [...known.map(({ values }) => values[i] as number), ...ends];
    return [Math.min(...all), Math.max(...all)];
  }) as [[number, number], [number, number]];
  const x = scaleLinear(spans[0], [MARGIN.left, WIDE - MARGIN.right]).nice(4);
  const y = scaleLinear(spans[1], [TALL - MARGIN.bottom, MARGIN.top]).nice(4);
  const [left, right] = x.range() as [number, number];
  const [bottom, top] = y.range() as [number, number];
  const within = (scale: typeof x, value: number) => {
    const [from, to] = scale.range() as [number, number];
    return Math.min(Math.max(scale(value), Math.min(from, to)), Math.max(from, to));
  };
  const path = line<Whole>(
    ({ values }) => x(values[0]),
    ({ values }) => y(values[1]),
  )(known);
  const here = points[at];
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${TALL}`}
      className="mt-1 w-full"
      role="img"
      aria-label={`${metricSpecOf(pair[1]).words} over ${metricSpecOf(pair[0]).words}`}
    >
      {bands.map((band, i) => {
        if (!band) return null;
        const scale = i === 0 ? x : y;
        const [from, to] = [within(scale, band.min ?? -1e12), within(scale, band.max ?? 1e12)];
        const size = Math.abs(to - from);
        return i === 0 ? (
          <rect key="x" x={Math.min(from, to)} y={top} width={size} height={bottom - top} className="fill-route/15" />
        ) : (
          <rect key="y" x={left} y={Math.min(from, to)} width={right - left} height={size} className="fill-route/15" />
        );
      })}
      <path d={`M${left},${top}V${bottom}H${right}`} className="fill-none stroke-ink" />
      {x.ticks(4).map((tick) => (
        <text key={tick} x={x(tick)} y={bottom + 12} textAnchor="middle" className="digits fill-ink-soft text-[10px]">
          {x.tickFormat(4)(tick)}
        </text>
      ))}
      {y.ticks(4).map((tick) => (
        <text key={tick} x={left - 4} y={y(tick) + 3} textAnchor="end" className="digits fill-ink-soft text-[10px]">
          {y.tickFormat(4)(tick)}
        </text>
      ))}
      <text x={(left + right) / 2} y={TALL - 4} textAnchor="middle" className="fill-ink text-[11px]">
        {titleOf(pair[0], unit)}
      </text>
      <text transform={`translate(9 ${(top + bottom) / 2}) rotate(-90)`} textAnchor="middle" className="fill-ink text-[11px]">
        {titleOf(pair[1], unit)}
      </text>
      {path && <path d={path} className="fill-none stroke-ink" strokeWidth={1.5} />}
      {points.map(({ values, othersMet }, i) =>
        values[0] === null || values[1] === null ? null : (
          <g key={i} onPointerDown={() => fit.goTo(i)} className="cursor-pointer">
            <circle cx={x(values[0])} cy={y(values[1])} r={9} className="fill-transparent" />
            <circle cx={x(values[0])} cy={y(values[1])} r={2.5} className={othersMet ? 'fill-ink' : 'fill-sheet stroke-ink'} />
          </g>
        ),
      )}
      {here && here.values[0] !== null && here.values[1] !== null && (
        <circle cx={x(here.values[0])} cy={y(here.values[1])} r={5.5} className="fill-none stroke-now" strokeWidth={2} />
      )}
    </svg>
  );
}

const titleOf = (key: string, unit: string): string => {
  const { words, quantity } = metricSpecOf(key);
  const own = unitOf(quantity, unit);
  return own === '' ? words : `${words}, ${own}`;
};
