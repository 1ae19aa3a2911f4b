import { useStore } from '@nanostores/react';
import { type RefObject, useCallback, useEffect, useRef } from 'react';
import { type CanvasSize, useCanvasSize } from '../shared/canvas.ts';
import { $theme, type Inks, readInks, type Theme } from '../shared/theme.ts';
import { Chart } from './chart.ts';
import { useZoom } from './useZoom.ts';
import type { View } from './view.ts';

/** A canvas with a ground on it: its size, its chart, its inks, and how it is seen. */
interface Sheet {
  canvas: RefObject<HTMLCanvasElement | null>;
  size: RefObject<CanvasSize>;
  chart: RefObject<Chart>;
  theme: Theme;
  /** Null until it has been fitted. */
  view: RefObject<View | null>;
  /** True until the user zooms or pans: then the view no longer refits when the canvas is resized. */
  fitted: RefObject<boolean>;
  /** The inks of the theme in force. */
  inks(): Inks;
  refit(): void;
  /** Brings a world point into the middle, near enough to see it. */
  show(x: number, y: number): void;
}

/** Screen pixels a unit at the least when a place is shown. */
const NEAR = 1.5;

export function useSheet(): Sheet {
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = useRef<View | null>(null);
  const fitted = useRef(true);
  const chart = useRef(new Chart());
  const read = useRef<Inks | null>(null);
  const theme = useStore($theme);
  useEffect(() => {
    read.current = null;
    void theme;
  }, [theme]);
  // The first chart is drawn before the fonts are there.
  useEffect(() => {
    void document.fonts.ready.then(() => chart.current.forget());
  }, []);
  const size = useCanvasSize(canvas, () => {
    if (fitted.current) view.current = null;
  });
  useZoom(canvas, view, fitted);
  const inks = () => {
    read.current ??= readInks();
    return read.current;
  };
  const show = useCallback(
    (x: number, y: number) => {
      const { width, height } = size.current;
      const scale = Math.max(view.current?.scale ?? 1, NEAR);
      fitted.current = false;
      view.current = { scale, x: x - width / 2 / scale, y: y - height / 2 / scale };
    },
    [size],
  );
  const refit = () => {
    fitted.current = true;
    view.current = null;
  };
  return { canvas, size, chart, theme, view, fitted, inks, refit, show };
}
