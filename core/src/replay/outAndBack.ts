import { type Tape, tapeOf } from '../tape/tape.ts';

/** Hands with a start, a sprint, a turn-round and a stop: the default if no tape is given. */
export const outAndBack: Tape = tapeOf({
  name: 'Out and back',
  hz: 60,
  ticks: 360,
  events: [
    { at: 10, press: 'right' },
    { at: 80, press: 'sprint' },
    { at: 140, release: 'sprint' },
    { at: 180, release: 'right' },
    { at: 240, press: 'left' },
    { at: 310, release: 'left' },
  ],
});
