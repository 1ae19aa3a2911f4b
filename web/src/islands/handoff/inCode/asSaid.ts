import { type FileValue, type TuningFile, withValue } from '@zygopod/core';

/** A tuning with values as a game's source has them. */
export const asSaid = (file: TuningFile, said: Readonly<Record<string, FileValue>>): TuningFile =>
  Object.entries(said).reduce((next, [path, value]) => withValue(next, path, value), file);
