import { type KeyboardEvent, type PointerEvent, useRef } from 'react';

/** A rule between two bands: drag it, or use the arrow keys, to give the lower band more or less room. */
export function Rule({ label, height, change }: { label: string; height: number; change(height: number): void }) {
  const grip = useRef<{ y: number; height: number } | null>(null);
  const drag = (event: PointerEvent) => {
    if (grip.current) change(grip.current.height + grip.current.y - event.clientY);
  };
  const key = (event: KeyboardEvent) => {
    const way = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    if (way === 0) return;
    event.preventDefault();
    event.stopPropagation();
    change(height + way * 10);
  };
  return (
    <div
      role="separator"
      tabIndex={0}
      aria-orientation="horizontal"
      aria-label={label}
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
