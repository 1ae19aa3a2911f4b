import { metricSpecOf, shortNumber } from '@zygopod/core';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';

interface Ends {
  min?: number | undefined;
  max?: number | undefined;
}

/** The range that a metric's scale shows: from 0 to beyond all that is on it. */
function reachOf(values: readonly (number | null | undefined)[]): number {
  return (
    Math.max(
      1e-6,
      ...values.filter((value) => typeof value === 'number' && Number.isFinite(value)).map((value) => Math.abs(value as number)),
    ) * 1.35
  );
}

/**
 * A metric on its own scale: the target band, what it is now and what it was. Where `change` is given, the ends of the band are dragged or
 * moved by arrow keys.
 */
export function Band({
  metric,
  value,
  before,
  ends,
  isOut,
  change,
}: {
  metric: string;
  value: number | null;
  before: number | null;
  ends: Ends | null;
  isOut: boolean;
  change?: ((ends: Ends) => void) | undefined;
}) {
  const bar = useRef<HTMLDivElement>(null);
  // The scale stays as it was while an end is dragged.
  const held = useRef<number | null>(null);
  const reach = held.current ?? reachOf([value, before, ends?.min, ends?.max]);
  const share = (at: number) => Math.min(1, Math.max(0, at / reach)) * 100;
  const [low, high] = [ends?.min ?? 0, ends?.max ?? reach];
  const put = (end: 'min' | 'max', to: number) => {
    const at = Number(Math.max(0, to).toPrecision(3));
    if (end === 'min') change?.({ ...ends, min: Math.min(at, ends?.max ?? Infinity) });
    else change?.({ ...ends, max: Math.max(at, ends?.min ?? 0) });
  };
  const drag = (end: 'min' | 'max') => (event: PointerEvent<HTMLButtonElement>) => {
    const box = bar.current?.getBoundingClientRect();
    if (!box || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
    put(end, ((event.clientX - box.left) / box.width) * reach);
  };
  const grip = (end: 'min' | 'max', at: number) => (
    <button
      type="button"
      role="slider"
      aria-label={`${end === 'min' ? 'Lower' : 'Upper'} end of the band of ${metricSpecOf(metric).words.toLowerCase()}`}
      aria-valuenow={at}
      aria-valuetext={shortNumber(at)}
      title="Drag it, or use the arrow keys"
      className="absolute top-1/2 h-5 w-3 -translate-1/2 cursor-ew-resize touch-none"
      style={{ left: `${share(at)}%` }}
      onPointerDown={(event) => {
        event.preventDefault();
        event.currentTarget.focus();
        held.current = reach;
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={drag(end)}
      onPointerUp={() => {
        held.current = null;
      }}
      onKeyDown={(event: KeyboardEvent) => {
        const delta = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
        if (delta === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        put(end, at + (delta * reach) / (event.shiftKey ? 10 : 100));
      }}
    >
      <span aria-hidden="true" className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-route" />
    </button>
  );
  return (
    <div ref={bar} className="relative h-4" data-metric={metric}>
      <span aria-hidden="true" className="absolute top-1/2 right-0 left-0 h-px bg-rule" />
      {ends && (
        <span
          aria-hidden="true"
          className="hatched absolute top-1/2 h-2.5 -translate-y-1/2 border border-route/50"
          style={{ left: `${share(low)}%`, width: `${Math.max(0.8, share(high) - share(low))}%` }}
        />
      )}
      {before !== null && value !== null && before !== value && (
        <>
          <span
            aria-hidden="true"
            className="absolute top-1/2 h-px bg-other"
            style={{ left: `${Math.min(share(before), share(value))}%`, width: `${Math.abs(share(before) - share(value))}%` }}
          />
          <span aria-hidden="true" className="absolute top-1/2 h-3 w-0.5 -translate-1/2 bg-other" style={{ left: `${share(before)}%` }} />
        </>
      )}
      {change && ends?.min !== undefined && grip('min', ends.min)}
      {change && ends?.max !== undefined && grip('max', ends.max)}
      {value !== null && (
        <svg
          aria-hidden="true"
          width="14"
          height="14"
          viewBox="-7 -7 14 14"
          className={`pointer-events-none absolute top-1/2 -translate-1/2 ${isOut ? 'text-now' : 'text-ink'}`}
          style={{ left: `${share(value)}%` }}
        >
          {isOut ? (
            <polygon points="0,-5 5,4 -5,4" fill="var(--sheet)" stroke="currentColor" strokeWidth="2" />
          ) : (
            <circle r="4" fill="var(--sheet)" stroke="currentColor" strokeWidth="2" />
          )}
        </svg>
      )}
    </div>
  );
}
