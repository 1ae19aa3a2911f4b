import { useEffect, useRef, useState } from 'react';
import { padsHere } from './pad.ts';
import { kindOf } from './padBindings.ts';

/** The pressed keys by position, and the kind, buttons and axes of the pad used last. */
export interface Pressed {
  keys: ReadonlySet<string>;
  pad: { kind: string; buttons: readonly number[]; axes: readonly number[] } | null;
}

/** Follows keys and pads for as long as the component is there. */
export function usePressed(): Pressed {
  const [pressed, setPressed] = useState<Pressed>({ keys: new Set(), pad: null });
  const lastWords = useRef('');
  useEffect(() => {
    const keys = new Set<string>();
    const press = (event: KeyboardEvent) => keys.add(event.code);
    const lift = (event: KeyboardEvent) => keys.delete(event.code);
    const leave = () => keys.clear();
    let last: string | null = null;
    let request = 0;
    const look = () => {
      request = requestAnimationFrame(look);
      const pads = padsHere();
      const speaks = pads.find(
        ({ buttons, axes }) => buttons.some((button) => button.pressed) || axes.some((axis) => Math.abs(axis) > 0.5),
      );
      last = speaks ? speaks.id : last;
      const shown = pads.find(({ id }) => id === last) ?? pads[0];
      const pad = shown
        ? {
            kind: kindOf(shown),
            buttons: shown.buttons.flatMap((button, i) => (button.pressed ? [i] : [])),
            axes: shown.axes.map((axis) => Math.round(axis * 50) / 50),
          }
        : null;
      const words = JSON.stringify([[...keys], pad]);
      if (words === lastWords.current) return;
      lastWords.current = words;
      setPressed({ keys: new Set(keys), pad });
    };
    look();
    window.addEventListener('keydown', press, true);
    window.addEventListener('keyup', lift, true);
    window.addEventListener('blur', leave);
    return () => {
      cancelAnimationFrame(request);
      window.removeEventListener('keydown', press, true);
      window.removeEventListener('keyup', lift, true);
      window.removeEventListener('blur', leave);
    };
  }, []);
  return pressed;
}
