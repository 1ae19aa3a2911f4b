import { useStore } from '@nanostores/react';
import { atom, type WritableAtom } from 'nanostores';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import { type CanvasSize, useCanvasSize } from './canvas.ts';
import { Chart } from './chart.ts';
import { $theme, type Inks, readInks, type Theme } from './theme.ts';
import { useZoom } from './useZoom.ts';
import { centred, firstMode, fit, follow, followScale, keepInside, type Size, sharp, type View, type ViewMode } from './view.ts';

/** The area that a view must show. */
interface InSight {
  ground: Size;
  x: number;
  y: number;
  /** Half the width of the body, unit. */
  radius: number;
  /** True if time runs: a view that the user has moved lets the body go while it rests. */
  isRunning: boolean;
}

/** A canvas with a ground on it: its size, its chart, its inks, and how it is seen. */
interface Sheet {
  canvas: RefObject<HTMLCanvasElement | null>;
  size: RefObject<CanvasSize>;
  chart: RefObject<Chart>;
  theme: Theme;
  /** The present view; null before the first drawing. */
  view: RefObject<View | null>;
  /** How it is seen. */
  $mode: WritableAtom<ViewMode>;
  /** The inks of the theme in force. */
  inks(): Inks;
  /** The view of a frame, at its time (ms). */
  look(sight: InSight, now: number): View;
  /** Chooses how it is seen; `first` is what suits the ground and the body. */
  choose(mode: ViewMode | 'first'): void;
  /** Moves the view as the user does: from then on it is their own. */
  move(view: View): void;
  /** Brings a world point into the middle, near enough to see it. */
  show(x: number, y: number): void;
}

/** Screen pixels a unit at least when a place is shown. */
const NEAR = 1.5;

/** Screen pixels that the body stays inside of a view of the user's own. */
const INSIDE = 60;

/** `first` is how it is seen at first, where the ground and the body are not to decide. */
export function useSheet(first: ViewMode | 'first' = 'first'): Sheet {
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = useRef<View | null>(null);
  const chart = useRef(new Chart());
  const read = useRef<Inks | null>(null);
  const last = useRef({ now: 0, ground: '' });
  const wanted = useRef<ViewMode | 'first'>(first);
  const [$mode] = useState(() => atom<ViewMode>(first === 'first' ? 'whole' : first));
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
    if ($mode.get() === 'whole') view.current = null;
  });
  const move = useCallback(
    (next: View) => {
      wanted.current = 'free';
      $mode.set('free');
      view.current = next;
    },
    [$mode],
  );
  useZoom(canvas, view, move);
  const inks = () => {
    read.current ??= readInks();
    return read.current;
  };
  const choose = (mode: ViewMode | 'first') => {
    wanted.current = mode;
    if (mode !== 'free') view.current = null;
    if (mode !== 'first') $mode.set(mode);
  };
  const next = ({ ground, x, y, radius, isRunning }: InSight, now: number): View => {
    const elapsed = Math.min(0.1, Math.max(0, (now - last.current.now) / 1000));
    // Another ground, or another size of it, gets a new view.
    const key = `${ground.width} ${ground.height}`;
    if (wanted.current !== 'free' && last.current.ground !== key) view.current = null;
    last.current = { now, ground: key };
    if (wanted.current === 'first' && view.current === null) $mode.set(firstMode(ground, size.current, radius));
    const mode = $mode.get();
    if (mode === 'follow') {
      const followed = follow(view.current, ground, size.current, followScale(radius), x, y, elapsed);
      // Whoever is put elsewhere at once is not waited for.
      view.current = keepInside(followed, size.current, x, y, Math.min(INSIDE, size.current.height / 4));
      return sharp(view.current, size.current.ratio);
    }
    if (mode === 'whole') view.current = fit(ground, size.current, radius);
    view.current ??= fit(ground, size.current, radius);
    if (mode === 'free' && isRunning) view.current = keepInside(view.current, size.current, x, y, INSIDE);
    return view.current;
  };
  const look = (sight: InSight, now: number): View => {
    const seen = next(sight, now);
    // For whoever has to find a place on it.
    const words = `${seen.scale} ${seen.x} ${seen.y}`;
    if (canvas.current && canvas.current.dataset['view'] !== words) canvas.current.dataset['view'] = words;
    return seen;
  };
  const show = useCallback(
    (x: number, y: number) => {
      const scale = Math.max(view.current?.scale ?? 1, NEAR);
      move(centred({ scale, x: 0, y: 0 }, size.current, x, y));
    },
    [size, move],
  );
  return { canvas, size, chart, theme, view, $mode, inks, look, choose, move, show };
}
