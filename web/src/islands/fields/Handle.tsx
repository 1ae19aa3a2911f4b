import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { useTuning } from '../tuning/context.ts';

interface HandleProps {
  x: number;
  y: number;
  label: string;
  /** The value in words, for those who hear it. */
  value: string;
  number: number;
  /** Called with the place in the drawing that the handle is dragged to. */
  drag(x: number, y: number): void;
  /** Called with −1 or 1 for a key across (right is 1) and for a key along (up is 1), times ten with Shift. */
  nudge(across: number, along: number): void;
  began?(): void;
  ended?(): void;
}

/** A round handle on a drawing. One drag is one step of undo; Escape gives back what was there. */
export function Handle({ x, y, label, value, number, drag, nudge, began, ended }: HandleProps) {
  const { editing } = useTuning();
  const grip = useRef<{ dx: number; dy: number } | null>(null);

  const place = (event: PointerEvent<SVGElement>) => {
    const svg = event.currentTarget.ownerSVGElement as SVGSVGElement;
    const box = svg.getBoundingClientRect();
    const view = svg.viewBox.baseVal;
    return { x: ((event.clientX - box.left) / box.width) * view.width, y: ((event.clientY - box.top) / box.height) * view.height };
  };
  const down = (event: PointerEvent<SVGElement>) => {
    if (event.button !== 0) return;
    const at = place(event);
    grip.current = { dx: x - at.x, dy: y - at.y };
    event.currentTarget.setPointerCapture(event.pointerId);
    began?.();
    editing.beginGesture(label.toLowerCase());
  };
  const move = (event: PointerEvent<SVGElement>) => {
    if (!grip.current) return;
    const at = place(event);
    drag(at.x + grip.current.dx, at.y + grip.current.dy);
  };
  const end = () => {
    if (!grip.current) return;
    grip.current = null;
    editing.endGesture();
    ended?.();
  };
  const key = (event: KeyboardEvent) => {
    const deltas: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
    const delta = deltas[event.key];
    if (event.key === 'Escape' && grip.current) {
      grip.current = null;
      editing.cancelGesture();
      ended?.();
    }
    if (!delta) return;
    event.preventDefault();
    event.stopPropagation();
    const size = event.shiftKey ? 10 : 1;
    nudge(delta[0] * size, delta[1] * size);
  };

  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={Number.isFinite(number) ? number : 0}
      aria-valuetext={value}
      className="group cursor-grab touch-none outline-none"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={end}
      onPointerCancel={end}
      onKeyDown={key}
    >
      <title>{`${label}: ${value}`}</title>
      <circle cx={x} cy={y} r="13" fill="transparent" />
      <circle cx={x} cy={y} r="8.5" className="fill-none stroke-transparent group-focus-visible:stroke-now" strokeWidth="1" />
      <circle cx={x} cy={y} r="5" className="fill-sheet stroke-now group-hover:fill-now" strokeWidth="2.2" />
    </g>
  );
}
