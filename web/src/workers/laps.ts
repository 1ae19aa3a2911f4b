import {
  bucketWalls,
  type CoursePath,
  defaultOptions,
  deviceFault,
  driveLaps,
  type Ground,
  type Parameters,
  type PilotLap,
  type PilotOptions,
  planCourse,
  type Tape,
  WallIndex,
} from '@zygopod/core';
import { expose } from 'comlink';

/** A lap, finished or not, with its tape; or why the tuning can't be driven with the device. */
export type Driven = { lap: PilotLap; tape: Tape } | { why: string };

/** Plans courses and has the pilot drive laps, away from the page. */
const api = {
  /** The shortest path of a tuning's body through the gates of a ground's course. */
  plan: (parameters: Parameters, ground: Ground): CoursePath =>
    planCourse(parameters, ground, new WallIndex(bucketWalls(ground, parameters.contact.seams))),

  drive(parameters: Parameters, ground: Ground, options: Partial<PilotOptions>): Driven {
    const fault = deviceFault(parameters, options.device ?? defaultOptions(parameters).device);
    if (fault) return { why: fault };
    const { laps, tape } = driveLaps(parameters, ground, options);
    return { lap: laps[0] as PilotLap, tape };
  },
};
export type LapsApi = typeof api;

expose(api);
