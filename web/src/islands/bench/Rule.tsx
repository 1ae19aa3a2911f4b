import { type KeyboardEvent, type PointerEvent, useRef } from 'react';

/** Heights that a band may have, px. */
const LEAST = 80;
const MOST = 460;

/** A rule between two bands: drag it, or use the arrow keys (Home and End for the ends), to give the lower band more or less room. */
export function Rule({
  label,
  band,
  height,
  change,
}: {
  label: string;
  /** Id of the band. */
  band: string;
  height: number;
  change(height: number): void;
}) {
  const put = (to: number) => change(Math.min(MOST, Math.max(LEAST, Math.round(to))));
  const grip = useRef<{ y: number; height: number } | null>(null);
  const drag = (event: PointerEvent) => {
    if (grip.current) put(grip.current.height + grip.current.y - event.clientY);
  };
  const key = (event: KeyboardEvent) => {
    const goal = { ArrowUp: height + 10, ArrowDown: height - 10, Home: LEAST, End: MOST }[event.key];
    if (goal === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    put(goal);
  };
  return (
    <div
      role="separator"
      tabIndex={0}
      aria-orientation="horizontal"
      aria-label={label}
      aria-controls={band}
      aria-valuemin={LEAST}
      aria-valuemax={MOST}
      aria-valuenow={height}
      className="relative z-10 -my-[3px] h-[6px] cursor-row-resize touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        grip.current = { y: event.clientY, height };
      }}
      onPointerMove={drag}
      onPointerUp={() => (grip.current = null)}
      onPointerCancel={() => (grip.current = null)}
      onKeyDown={key}
    />
  );
}
