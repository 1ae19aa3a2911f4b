import { specs } from './catalogue/catalogue.ts';
import type { FileValue } from './schema.ts';
import { rawAt, type Tuning, valueAt } from './tuning.ts';

/** A parameter in which two tunings differ: the values in force, and as written (links kept). */
export interface Difference {
  path: string;
  a: unknown;
  b: unknown;
  writtenA: FileValue;
  writtenB: FileValue;
  /** True if it was changed itself; else it follows a link to another that was. */
  isWritten: boolean;
}

/** The parameters in which two tunings differ, in the catalogue's order; a changed link counts even if its value is the same. */
export function differences(a: Tuning, b: Tuning): Difference[] {
  const found: Difference[] = [];
  for (const path of specs.keys()) {
    const writtenA = rawAt(a.file, path);
    const writtenB = rawAt(b.file, path);
    const valueA = valueAt(a.parameters, path);
    const valueB = valueAt(b.parameters, path);
    const isWritten = JSON.stringify(writtenA) !== JSON.stringify(writtenB);
    if (isWritten || JSON.stringify(valueA) !== JSON.stringify(valueB))
      found.push({ path, a: valueA, b: valueB, writtenA, writtenB, isWritten });
  }
  return found;
}
