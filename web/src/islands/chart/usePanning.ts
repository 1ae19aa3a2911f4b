import { type PointerEvent, type RefObject, useRef } from 'react';
import { pan, type View } from './view.ts';

/** Pointer handlers of a canvas whose view is moved by dragging. */
export function usePanning(view: RefObject<View | null>, move: (view: View) => void) {
  const dragged = useRef<{ x: number; y: number } | null>(null);
  const drop = () => {
    dragged.current = null;
  };
  return {
    onPointerDown(event: PointerEvent) {
      event.currentTarget.setPointerCapture(event.pointerId);
      dragged.current = { x: event.clientX, y: event.clientY };
    },
    onPointerMove(event: PointerEvent) {
      if (!dragged.current || !view.current) return;
      move(pan(view.current, event.clientX - dragged.current.x, event.clientY - dragged.current.y));
      dragged.current = { x: event.clientX, y: event.clientY };
    },
    onPointerUp: drop,
    onPointerCancel: drop,
  };
}
