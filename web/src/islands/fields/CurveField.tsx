import { type CurveSpec, monotoneCubic, shortNumber, specOf } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { useId, useState } from 'react';
import { Handle } from './Handle.tsx';
import { useChoice } from './model.ts';

const WIDTH = 268;
const HEIGHT = 84;
type Points = readonly (readonly [number, number])[];

/** `0 1, 0.4 1.5, 1 0.3` as points, or null. */
function readPoints(text: string): [number, number][] | null {
  const points = text.split(',').map((pair) => pair.trim().split(/\s+/).map(Number));
  return points.every((p) => p.length === 2 && p.every(Number.isFinite)) ? (points as [number, number][]) : null;
}

/** A row with a curve: drag its circles, or type its points. */
export function CurveField({ path }: { path: string }) {
  const id = useId();
  const { value, set } = useChoice(path);
  const spec = specOf(path) as CurveSpec;
  const points = value as Points;
  const [typed, setTyped] = useState<string | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const top = Math.max(Math.min(2, spec.max), ...points.map(([, f]) => f)) * 1.1;
  const x = scaleLinear([0, 1], [10, WIDTH - 10]);
  const y = scaleLinear([0, top], [HEIGHT - 8, 6]);
  const f = monotoneCubic(points);
  const tidy = (value: number) => Number(value.toFixed(2));
  const held = (value: number) => Math.min(spec.max, Math.max(spec.min, tidy(value)));
  const move = (index: number, s: number, factor: number) => {
    const low = index === 0 ? 0 : index === points.length - 1 ? 1 : (points[index - 1]?.[0] ?? 0) + 0.02;
    const high = index === 0 ? 0 : index === points.length - 1 ? 1 : (points[index + 1]?.[0] ?? 1) - 0.02;
    set(points.map((p, i): Points[number] => (i === index ? [tidy(Math.min(high, Math.max(low, s))), held(factor)] : p)));
  };
  const add = () => {
    // In the middle of the widest gap, on the curve.
    const gaps = points.slice(1).map(([s], i) => s - (points[i]?.[0] ?? 0));
    const at = gaps.indexOf(Math.max(...gaps));
    const s = tidy((points[at]?.[0] ?? 0) + (gaps[at] ?? 0) / 2);
    set([...points.slice(0, at + 1), [s, tidy(f(s))], ...points.slice(at + 1)]);
  };
  const commit = (text: string) => {
    const next = readPoints(text);
    const rising = next?.every(([s], i) => i === 0 || s > (next[i - 1]?.[0] ?? 0)) && next.length >= 2 && next.length <= 16;
    if (!next || !rising || next[0]?.[0] !== 0 || next.at(-1)?.[0] !== 1) return setWhy('pairs such as “0 1, 0.5 1.4, 1 0.3”, from 0 to 1');
    if (next.some(([, factor]) => factor < spec.min || factor > spec.max))
      return setWhy(`the second numbers lie between ${spec.min} and ${spec.max}`);
    setWhy(null);
    setTyped(null);
    set(next);
  };

  return (
    <div className="border-t border-rule/60 py-1">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full select-none" role="group" aria-label={spec.help}>
        <path d={`M10,4 V${HEIGHT - 8} H${WIDTH - 6}`} className="fill-none stroke-ink" />
        <line x1="10" x2={WIDTH - 6} y1={y(1)} y2={y(1)} className="stroke-ink-soft" strokeDasharray="1.5 3" />
        <path
          d={Array.from({ length: 81 }, (_, i) => `${i ? 'L' : 'M'}${x(i / 80)},${y(f(i / 80))}`).join('')}
          className="fill-none stroke-ink"
          strokeWidth="2"
        />
        {points.map(([s, factor], i) => (
          <Handle
            key={i}
            x={x(s)}
            y={y(factor)}
            label={`${spec.label} point ${i + 1}`}
            value={`${shortNumber(factor)} at ${shortNumber(s)}`}
            number={factor}
            drag={(px, py) => move(i, x.invert(px), y.invert(py))}
            nudge={(across, along) => move(i, s + across * 0.02, factor + along * 0.05)}
          />
        ))}
      </svg>
      <div className="flex items-baseline gap-3">
        <label htmlFor={id} title={spec.help}>
          {spec.label}
        </label>
        <input
          id={id}
          className="digits min-w-0 flex-1 border-b border-ink bg-transparent text-xs"
          value={typed ?? points.map(([s, factor]) => `${shortNumber(s)} ${shortNumber(factor)}`).join(', ')}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={(event) => typed !== null && commit(event.target.value)}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Enter') commit(event.currentTarget.value);
            if (event.key === 'Escape') {
              setTyped(null);
              setWhy(null);
            }
          }}
        />
        <button type="button" className="action text-xs" disabled={points.length >= 16} onClick={add}>
          Add a point
        </button>
      </div>
      {why && (
        <p role="alert" className="text-xs text-now">
          ▲ {why}
        </p>
      )}
    </div>
  );
}
