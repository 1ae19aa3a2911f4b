import {
  ended,
  type FitProgress,
  type FitReport,
  type FitRequest,
  type FrontPoint,
  fitFaults,
  fitTargets,
  type Ground,
  type MoveRequest,
  numbersFor,
  resolveTuning,
  type Target,
  type TuningFile,
  tradeOff,
} from '@zygopod/core';
import { expose } from 'comlink';

/** A fit as the page requests it. */
export interface PageFit {
  file: TuningFile;
  targets: readonly Target[];
  ground: Ground | null;
  moves: readonly MoveRequest[];
}

/** Milliseconds between two reports of progress. */
const EVERY = 100;

function requestOf({ file, targets, ground, moves }: PageFit): FitRequest {
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(`${read.faults[0]?.path}: found ${read.faults[0]?.found}, expected ${read.faults[0]?.expected}`);
  const request = { tuning: read.value, targets, ground, moves };
  const [fault] = fitFaults(request);
  if (fault) throw new Error(fault);
  return request;
}

/** Passes progress on, but not more often than a page needs. */
function seldom(report: (progress: FitProgress) => void): (progress: FitProgress) => void {
  let reported = performance.now();
  return (progress) => {
    if (performance.now() - reported < EVERY) return;
    reported = performance.now();
    report(progress);
  };
}

/** Fits tunings to targets, away from the page. */
const api = {
  fit: (request: PageFit, report: (progress: FitProgress) => void): FitReport => ended(fitTargets(requestOf(request)), seldom(report)),

  tradeOff: (request: PageFit, pair: [string, string]): FrontPoint[] => ended(tradeOff(requestOf(request), pair)),

  /** The numbers that move without a choice, with their ranges. */
  numbers(request: PageFit): MoveRequest[] {
    const { tuning, targets, ground } = requestOf({ ...request, moves: [] });
    return numbersFor(tuning, targets, ground).map(({ path, min, max }) => ({ path, min, max }));
  },
};
export type FitApi = typeof api;

expose(api);
