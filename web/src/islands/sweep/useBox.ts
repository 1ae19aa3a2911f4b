import { type RefObject, useEffect, useRef, useState } from 'react';

/** The size of an element in px, as it changes. */
export function useBox<E extends HTMLElement>(): [{ width: number; height: number }, RefObject<E | null>] {
  const own = useRef<E>(null);
  const [box, setBox] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = own.current;
    if (!element) return;
    const measure = () => setBox({ width: element.clientWidth, height: element.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [box, own];
}
