import { type RefObject, useEffect, useRef } from 'react';

/** The size of a canvas in CSS pixels and the number of device pixels in one. */
export interface CanvasSize {
  width: number;
  height: number;
  ratio: number;
}

/** Keeps a canvas as large as its element, in device pixels; `size.current` is always the present one. */
export function useCanvasSize(canvas: RefObject<HTMLCanvasElement | null>, resized: () => void): RefObject<CanvasSize> {
  const size = useRef<CanvasSize>({ width: 1, height: 1, ratio: 1 });
  const onResize = useRef(resized);
  useEffect(() => {
    onResize.current = resized;
  });
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const measure = () => {
      const ratio = window.devicePixelRatio || 1;
      size.current = { width: Math.max(1, element.clientWidth), height: Math.max(1, element.clientHeight), ratio };
      element.width = Math.round(size.current.width * ratio);
      element.height = Math.round(size.current.height * ratio);
      onResize.current();
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [canvas]);
  return size;
}
