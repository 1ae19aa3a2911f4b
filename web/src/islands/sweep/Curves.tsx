import { useStore } from '@nanostores/react';
import { type MetricKey, metricSpecOf, placeOn, type Target, unitOf, valueOn } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import type { KeyboardEvent, PointerEvent } from 'react';
import { ticksOf } from './axisTicks.ts';
import { useSweep } from './context.ts';
import { bandOf, MARGIN } from './layout.ts';
import type { Swept } from './measuring.ts';
import { useBox } from './useBox.ts';
import { axisTitle, metricWords, valueWords } from './words.ts';

/** Curves at most. */
const MOST = 4;
/** Room between curves, px. */
const GAP = 16;

/** Up to four metrics over one axis, each on its own scale with its band. */
export function Curves({ swept }: { swept: Swept }) {
  const work = useSweep();
  const choice = useStore(work.$choice);
  const { unit = 'px' } = useStore(work.work.editing.$now);
  const tuning = useStore(work.work.editing.$plainTuning);
  const at = useStore(work.$at);
  const [box, own] = useBox<HTMLDivElement>();
  const { sweep } = swept;
  const [axis] = sweep.definition.axes;
  if (!axis) return null;
  const count = axis.values.length;
  const [wide, tall] = [Math.max(1, box.width - MARGIN.left - MARGIN.right), Math.max(1, box.height - MARGIN.top - MARGIN.bottom)];
  const shown = choice.shown;
  const keys = [...(shown === 'met' ? [] : [shown]), ...choice.metrics.filter((key) => key !== shown)]
    .filter((key) => sweep.values.has(key))
    .slice(0, MOST);
  const each = (tall - GAP * (keys.length - 1)) / Math.max(1, keys.length);
  const x = (index: number) => ((index + 0.5) * wide) / count;
  const today = valueOn(axis, tuning);
  const place = today === undefined ? null : placeOn(axis, today);
  const cellAt = (event: PointerEvent<HTMLElement>) => {
    const { left } = event.currentTarget.getBoundingClientRect();
    return Math.min(count - 1, Math.max(0, Math.floor(((event.clientX - left - MARGIN.left) / wide) * count)));
  };
  const key = (event: KeyboardEvent) => {
    const step = (event.shiftKey ? 10 : 1) * ({ ArrowLeft: -1, ArrowRight: 1 }[event.key] ?? 0);
    if (event.key === 'Escape') work.$isPinned.set(false);
    if (step === 0) return;
    event.preventDefault();
    event.stopPropagation();
    work.goToCell(Math.min(count - 1, Math.max(0, (work.$at.get() ?? Math.floor(count / 2)) + step)));
  };
  return (
    <div
      ref={own}
      role="application"
      aria-label={`${keys.map((one) => metricSpecOf(one).words).join(', ')} over ${axisTitle(axis, unit)}. Arrow keys move by a value.`}
      tabIndex={0}
      className="absolute inset-0 cursor-crosshair touch-none outline-offset-[-2px]"
      data-testid="curves"
      data-done={sweep.done}
      data-cells={sweep.cells}
      onPointerMove={(event) => !work.$isPinned.get() && work.$at.set(cellAt(event))}
      onPointerUp={(event) => work.press(cellAt(event))}
      onPointerLeave={() => !work.$isPinned.get() && work.$at.set(null)}
      onKeyDown={key}
    >
      {box.height > 0 && (
        <svg aria-hidden="true" width={box.width} height={box.height} className="absolute inset-0 overflow-hidden">
          <defs>
            <pattern id="band" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <line x1="0" y1="0" x2="0" y2="5" stroke="var(--route)" strokeWidth="1" strokeOpacity="0.55" />
            </pattern>
          </defs>
          {keys.map((one, i) => (
            <g key={one} transform={`translate(${MARGIN.left} ${MARGIN.top + i * (each + GAP)})`}>
              <Curve
                metric={one}
                values={sweep.values.get(one) as Float64Array}
                isDone={(cell) => sweep.isDone(cell)}
                band={bandOf(sweep.definition.targets, one)}
                x={x}
                wide={wide}
                tall={each}
                unit={unit}
                at={at}
              />
            </g>
          ))}
          <g transform={`translate(${MARGIN.left} ${MARGIN.top})`}>
            {place !== null && (
              <g>
                <line x1={x(place)} x2={x(place)} y1={0} y2={tall} stroke="var(--ink)" strokeDasharray="4 3" />
                <text x={x(place) + 5} y={tall - 6} fontSize="11.5" fontWeight="600" fill="var(--ink)">
                  today
                </text>
              </g>
            )}
            {at !== null && <line x1={x(at)} x2={x(at)} y1={0} y2={tall} stroke="var(--now)" strokeDasharray="2 3" />}
            {ticksOf(axis, Math.max(2, Math.floor(wide / 70))).map(({ at: tick, text }) => (
              <g key={text} transform={`translate(${(tick * wide) / count} ${tall})`}>
                <line y2="5" stroke="var(--ink)" />
                <text y="17" fontSize="11" textAnchor="middle" className="digits" fill="var(--ink)">
                  {text}
                </text>
              </g>
            ))}
            <text x={wide / 2} y={tall + 36} textAnchor="middle" fontSize="12.5" fill="var(--ink)">
              {axisTitle(axis, unit)}
            </text>
          </g>
        </svg>
      )}
      {at !== null && (
        <p
          aria-live="polite"
          className="digits pointer-events-none absolute border border-now bg-sheet px-1.5 py-0.5 text-[11px] whitespace-nowrap"
          data-testid="cell-value"
          style={{
            top: MARGIN.top + 6,
            ...(at < count * 0.6 ? { left: MARGIN.left + x(at) + 9 } : { right: MARGIN.right + wide - x(at) + 9 }),
          }}
        >
          {valueWords(axis, axis.values[at] ?? '', unit)}
        </p>
      )}
    </div>
  );
}

/** One metric over the axis. */
function Curve({
  metric,
  values,
  isDone,
  band,
  x,
  wide,
  tall,
  unit,
  at,
}: {
  metric: MetricKey;
  values: Float64Array;
  isDone(cell: number): boolean;
  band: Target | null;
  x(index: number): number;
  wide: number;
  tall: number;
  unit: string;
  at: number | null;
}) {
  const { words, quantity } = metricSpecOf(metric);
  const known = [...values].flatMap((value, cell) => (isDone(cell) && !Number.isNaN(value) ? [{ cell, value }] : []));
  const ends = [band?.min, band?.max].filter((end) => end !== undefined);
  const all = [...known.map(({ value }) => value), ...ends];
  const [low, high] = all.length === 0 ? [0, 1] : [Math.min(...all), Math.max(...all)];
  const room = (high - low || Math.abs(high) || 1) * 0.12;
  const y = scaleLinear()
    .domain([Math.min(low - room, low >= 0 ? Math.max(0, low - room) : low - room), high + room])
    .range([tall, 0]);
  const [top, bottom] = [
    y(Math.min(band?.max ?? Infinity, high + room)),
    y(Math.max(band?.min ?? Number.NEGATIVE_INFINITY, y.domain()[0] as number)),
  ];
  const value = at === null ? undefined : values[at];
  return (
    <>
      <rect width={wide} height={tall} fill="none" stroke="var(--rule)" />
      {band && <rect y={top} width={wide} height={Math.max(1, bottom - top)} fill="url(#band)" />}
      {ends.map((end) => (
        <line key={end} x2={wide} y1={y(end)} y2={y(end)} stroke="var(--route)" strokeWidth="1.4" />
      ))}
      {y.ticks(Math.max(2, Math.floor(tall / 40))).map((tick) => (
        <g key={tick} transform={`translate(0 ${y(tick)})`}>
          <line x2="-5" stroke="var(--ink)" />
          <text x="-8" textAnchor="end" dominantBaseline="central" fontSize="11" className="digits" fill="var(--ink)">
            {y.tickFormat()(tick)}
          </text>
        </g>
      ))}
      <polyline
        points={known.map(({ cell, value: own }) => `${x(cell).toFixed(1)},${y(own).toFixed(1)}`).join(' ')}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.6"
      />
      {value !== undefined && !Number.isNaN(value) && at !== null && (
        <circle cx={x(at)} cy={y(value)} r="4.5" fill="var(--sheet)" stroke="var(--now)" strokeWidth="2.2" />
      )}
      <text x="8" y="15" fontSize="12" fontWeight="600" fill="var(--ink)" stroke="var(--sheet)" strokeWidth="3" paintOrder="stroke">
        {words}, {unitOf(quantity, unit)}
        {at !== null && <tspan fill="var(--now)"> {metricWords(metric, value, unit)}</tspan>}
      </text>
    </>
  );
}
