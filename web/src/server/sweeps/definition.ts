import {
  type MetricKey,
  readAxis,
  readGround,
  readTape,
  readTargets,
  readTuning,
  type SweepAxis,
  type SweepDefinition,
  sweepFaults,
} from '@zygopod/core';

/** A sweep as it is sent and stored: files, axes as text, and what is measured. */
export interface StoredDefinition {
  tuning: unknown;
  ground: unknown;
  over: string[];
  metrics: string[];
  targets: unknown[];
  /** Absent in runs of earlier versions. */
  tapes?: unknown[];
  metOnly: boolean;
}

/** Reads a stored definition; or what is wrong with it, in words. */
export function readDefinition({
  tuning,
  ground,
  over,
  metrics,
  targets,
  tapes = [],
  metOnly,
}: StoredDefinition): SweepDefinition | { faults: string[] } {
  const read = readTuning(tuning);
  if (!read.ok) return { faults: read.faults.map(({ path, found, expected }) => `tuning: ${path}: found ${found}, expected ${expected}`) };
  const on = ground === null ? null : readGround(ground);
  if (on && !on.ok)
    return { faults: on.faults.map(({ path, found, expected }) => `ground: ${path}: found ${found}, expected ${expected}`) };
  const set = readTargets({ format: 'zygopod/targets', version: 1, targets });
  if (!set.ok) return { faults: set.faults.map(({ path, found, expected }) => `${path}: found ${found}, expected ${expected}`) };
  const driven = tapes.map(readTape);
  for (const [i, tape] of driven.entries())
    if (!tape.ok)
      return { faults: tape.faults.map(({ path, found, expected }) => `tapes.${i}: ${path}: found ${found}, expected ${expected}`) };
  const axes = over.map((text) => readAxis(text, read.value.file));
  const wrong = axes.filter((axis) => typeof axis === 'string');
  if (wrong.length > 0) return { faults: wrong };
  const definition: SweepDefinition = {
    tuning: read.value,
    axes: axes as SweepAxis[],
    metrics: metrics as MetricKey[],
    targets: set.value.targets,
    ground: on ? on.value : null,
    tapes: driven.flatMap((tape) => (tape.ok ? [tape.value] : [])),
    isMetOnly: metOnly,
  };
  const faults = sweepFaults(definition);
  return faults.length > 0 ? { faults } : definition;
}
