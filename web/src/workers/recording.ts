import { ended, fitRecording, type RecordingOptions, type RecordingReport, readRecording, type TuningFile } from '@zygopod/core';
import { expose } from 'comlink';

/** A recording as the page shows it: its places, span and top speed, and what was taken for what. */
export interface RecordingSummary {
  rows: number;
  seconds: number;
  places: [number, number][];
  span: [number, number];
  topSpeed: number;
  notes: string[];
}

/** Something that was found, or null and why it couldn’t be. */
interface Answer<T> {
  found: T | null;
  why: string;
}

/** Places that are shown at most. */
const SHOWN = 600;
/** Milliseconds between two reports of progress. */
const EVERY = 150;

/** Reads recordings, and finds their numbers, away from the page. */
const api = {
  read(text: string, options: RecordingOptions): Answer<RecordingSummary> {
    const recording = readRecording(text, options);
    if (typeof recording === 'string') return { found: null, why: recording };
    const { times, x, y, notes } = recording;
    const stride = Math.ceil(times.length / SHOWN);
    const speeds = [...times.keys()].flatMap((i) => {
      const from = Math.max(0, i - 6);
      const seconds = (times[i] as number) - (times[from] as number);
      return seconds > 0 ? [Math.hypot((x[i] as number) - (x[from] as number), (y[i] as number) - (y[from] as number)) / seconds] : [];
    });
    const spanOf = (values: Float64Array) =>
      values.reduce((most, value) => Math.max(most, value), -Infinity) - values.reduce((least, value) => Math.min(least, value), Infinity);
    const summary = {
      rows: times.length,
      seconds: (times.at(-1) as number) - (times[0] as number),
      places: [...times.keys()].filter((i) => i % stride === 0).map((i): [number, number] => [x[i] as number, y[i] as number]),
      span: [spanOf(x), spanOf(y)] as [number, number],
      topSpeed: speeds.toSorted((a, b) => a - b)[Math.floor(0.98 * (speeds.length - 1))] ?? 0,
      notes,
    };
    return { found: summary, why: '' };
  },

  fit(text: string, options: RecordingOptions, base: TuningFile, report: (attempts: number) => void): Answer<RecordingReport> {
    const recording = readRecording(text, options);
    if (typeof recording === 'string') return { found: null, why: recording };
    let reported = performance.now();
    const found = ended(fitRecording(recording, base), ({ attempts }) => {
      if (performance.now() - reported < EVERY) return;
      reported = performance.now();
      report(attempts);
    });
    return typeof found === 'string' ? { found: null, why: found } : { found, why: '' };
  },
};
export type RecordingApi = typeof api;

expose(api);
