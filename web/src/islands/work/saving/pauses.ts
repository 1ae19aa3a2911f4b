/** Pause after the last change before the draft is sent (ms). */
export const PAUSE = 300;

/** The first and the longest pause between tries while the server is away (ms). */
const RETRY = 2000;
const LONGEST_RETRY = 30_000;

/** The pause before the next try (ms): it doubles with each, and is no shorter than the server asks for. */
export const pauseAfter = (tries: number, retryAfter: number): number => Math.max(retryAfter, Math.min(LONGEST_RETRY, RETRY * 2 ** tries));
