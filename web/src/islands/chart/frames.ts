import { createContext, useContext, useEffect } from 'react';

/** Draws or writes one thing, once a frame. `now` is the frame's time in ms. */
export type Painter = (now: number) => void;

/** The painters of a screen: React draws the panels, painters draw what moves. */
export const Painters = createContext<Set<Painter>>(new Set());

/** Runs `paint` once a frame as long as the component is there. */
export function usePainter(paint: Painter): void {
  const painters = useContext(Painters);
  useEffect(() => {
    painters.add(paint);
    return () => {
      painters.delete(paint);
    };
  });
}

/** How many frames the work figures are taken over. */
const WINDOW = 60;

/** Calls `frame` once a frame with the seconds gone by. The page's work a frame is told on the document, for whoever measures. */
export function runFrames(frame: (elapsed: number, at: number) => void): () => void {
  let last = performance.now();
  let request = 0;
  let frames = 0;
  let work = 0;
  const run = (at: number) => {
    request = requestAnimationFrame(run);
    const begun = performance.now();
    frame(Math.max(0, (at - last) / 1000), at);
    last = at;
    work += performance.now() - begun;
    if (++frames % WINDOW === 0) {
      document.documentElement.dataset['frameWork'] = (work / WINDOW).toFixed(3);
      document.documentElement.dataset['frames'] = String(frames);
      work = 0;
    }
  };
  request = requestAnimationFrame(run);
  return () => cancelAnimationFrame(request);
}
