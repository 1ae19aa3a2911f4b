import { type RefObject, useEffect, useRef } from 'react';
import { type View, zoomAt } from './view.ts';

/** The wheel zooms a canvas about the pointer. */
export function useZoom(canvas: RefObject<HTMLCanvasElement | null>, view: RefObject<View | null>, move: (view: View) => void): void {
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    // React listens to wheels passively; zooming has to keep the page still.
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      if (view.current) move(zoomAt(view.current, Math.exp(-event.deltaY * 0.0015), event.clientX - box.left, event.clientY - box.top));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [canvas, view, move]);
}

/** True if the space bar is down. */
export function useSpace(): RefObject<boolean> {
  const down = useRef(false);
  useEffect(() => {
    const set = (value: boolean) => (event: KeyboardEvent) => {
      if (event.code === 'Space') down.current = value;
    };
    const press = set(true);
    const lift = set(false);
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', lift);
    return () => {
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', lift);
    };
  }, []);
  return down;
}
