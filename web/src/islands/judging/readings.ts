import { significant, significantPair } from '@zygopod/core';

/** The ends of a band; an absent one is free. */
interface Band {
  min?: number | undefined;
  max?: number | undefined;
}

/** The end of a band that a value is beyond; null while it is within. */
function endBeyond(value: number, { min, max }: Band): number | null {
  if (min !== undefined && value < min) return min;
  return max !== undefined && value > max ? max : null;
}

/** A measured value in three significant digits, and in more where it takes them to show that it is out of its band. */
export function readingOf(value: number, band: Band | null = null): string {
  const end = band && endBeyond(value, band);
  return end === null ? significant(value) : significantPair(value, end)[0];
}
