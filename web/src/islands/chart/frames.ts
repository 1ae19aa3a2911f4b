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

/** Number of frames that the load figures average. */
const WINDOW = 60;

/** Still frames after which the loop sleeps. */
const STILL_FRAMES = 30;
/** Milliseconds between two polls of a sleeping loop, and polls between two frames of it: what no event announces is drawn by then. */
const POLL = 100;
const POLLS_A_FRAME = 5;

/** Events that wake a sleeping loop. */
const waking = ['pointermove', 'pointerdown', 'keydown', 'keyup', 'wheel', 'resize', 'focus', 'gamepadconnected'] as const;

/** When a loop of frames may sleep, and what it does meanwhile. */
export interface Rest {
  /** True while frames would show nothing new. */
  isStill(): boolean;
  /** Reads devices that send no events. */
  poll?(): void;
}

/**
 * Calls `frame` once a frame with the seconds since the last one. Once all is still the loop sleeps: it polls slowly, and goes on with any
 * input, any change of the page, or when it is not still any more. The work a frame is kept on the document, for measurements.
 */
export function runFrames(frame: (elapsed: number, at: number) => void, { isStill, poll }: Rest): () => void {
  let last = performance.now();
  let request = 0;
  let timer: ReturnType<typeof setInterval> | undefined;
  let frames = 0;
  let work = 0;
  let still = 0;
  const draw = (at: number) => {
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
  const run = (at: number) => {
    draw(at);
    still = isStill() ? still + 1 : 0;
    if (still < STILL_FRAMES) request = requestAnimationFrame(run);
    else sleep();
  };
  const sleep = () => {
    let polls = 0;
    document.documentElement.dataset['asleep'] = 'true';
    timer = setInterval(() => {
      poll?.();
      if (!isStill()) wake();
      else if (++polls % POLLS_A_FRAME === 0) draw(performance.now());
    }, POLL);
  };
  const wake = () => {
    still = 0;
    if (timer === undefined) return;
    clearInterval(timer);
    timer = undefined;
    delete document.documentElement.dataset['asleep'];
    last = performance.now();
    request = requestAnimationFrame(run);
  };
  // A change in the panels signals a change elsewhere.
  const watch = new MutationObserver(wake);
  watch.observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
  for (const event of waking) window.addEventListener(event, wake, { capture: true, passive: true });
  request = requestAnimationFrame(run);
  return () => {
    cancelAnimationFrame(request);
    clearInterval(timer);
    watch.disconnect();
    for (const event of waking) window.removeEventListener(event, wake, { capture: true });
  };
}
