import {
  bucketWalls,
  type CoursePath,
  defaultOptions,
  deviceFault,
  driveMedianLap,
  type Ground,
  type Parameters,
  type PilotLap,
  type PilotOptions,
  planCourse,
  type Tape,
  WallIndex,
} from '@zygopod/core';
import { expose } from 'comlink';

/** A lap, finished or not, with its tape; of several the one in the middle, and their spread; or why the tuning can't be driven with the device. */
export type Driven = { lap: PilotLap; tape: Tape; spread: Spread | null } | { why: string };

/** The tenth and ninetieth percentile of the times of the finished ones of many laps (s), and how many those are. */
export interface Spread {
  p10: number;
  p90: number;
  finished: number;
}

/** Plans courses and has the pilot drive laps, away from the page. */
const api = {
  /** The shortest path of a tuning's body through the gates of a ground's course. */
  plan: (parameters: Parameters, ground: Ground): CoursePath =>
    planCourse(parameters, ground, new WallIndex(bucketWalls(ground, parameters.contact.seams))),

  drive(parameters: Parameters, ground: Ground, options: Partial<PilotOptions>, count: number): Driven {
    const fault = deviceFault(parameters, options.device ?? defaultOptions(parameters).device);
    if (fault) return { why: fault };
    const { lap, tape, spread, finished } = driveMedianLap(parameters, ground, options, count);
    return { lap, tape, spread: count > 1 && spread.time ? { ...spread.time, finished } : null };
  },
};
export type LapsApi = typeof api;

expose(api);
