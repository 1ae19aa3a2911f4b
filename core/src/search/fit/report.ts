import type { FileValue } from '../../tuning/schema.ts';

/** Targets that can’t be met together though each of them could without the others, or one that can’t be met at all. */
export interface Conflict {
  /** The keys of their metrics. */
  targets: string[];
  /** The numbers that move more than one of them, or the one. */
  through: string[];
  why: string;
}

/** The result of a fit, as programs read it. */
export interface FitReport {
  met: boolean;
  /** The values that change, by path. */
  set: Record<string, FileValue>;
  /** The range of each moved number over which all targets hold, the others fitted again. */
  held: Record<string, { low: number; high: number }>;
  /** The numbers that no target holds: any value of their range does. */
  free: string[];
  conflicts: Conflict[];
  metrics: { name: string; before: number | null; after: number | null; min?: number; max?: number; ok: boolean | null }[];
}
