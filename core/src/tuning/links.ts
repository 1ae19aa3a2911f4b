import type { Fault } from '../document/fault.ts';
import { specs } from './catalogue/catalogue.ts';
import { heldIn, isWhole, type Link, type NumberSpec } from './catalogue/specs.ts';
import type { FileValue } from './schema.ts';

export function isLink(value: unknown): value is Link {
  return typeof value === 'object' && value !== null && !Array.isArray(value) && typeof (value as Link).of === 'string';
}

/** value · times + plus, as a link says. */
export function follow(link: Link, value: number): number {
  return value * (link.times ?? 1) + (link.plus ?? 0);
}

/**
 * Resolves every number of a tuning: links are followed through chains, and each result is checked against its range. `raw` returns the value of a
 * path in the file (or the default). Loops, unknown paths and results out of range become faults that name the path; such a number gets its nearest
 * allowed value, so that the rest can go on.
 */
export function resolveNumbers(raw: (path: string) => FileValue): { numbers: Map<string, number>; faults: Fault[] } {
  const numbers = new Map<string, number>();
  const faults: Fault[] = [];
  const underWay: string[] = [];

  const resolve = (path: string, spec: NumberSpec): number => {
    const known = numbers.get(path);
    if (known !== undefined) return known;
    const value = raw(path);
    let number = isLink(value) ? throughLink(path, value) : (value as number);
    const isFraction = isWhole(spec) && !Number.isInteger(number);
    if (!(number >= spec.min && number <= spec.max) || isFraction) {
      if (Number.isFinite(number))
        faults.push({
          path,
          found: `${number} through its link`,
          expected: `a ${isWhole(spec) ? 'whole number' : 'value'} from ${spec.min} to ${spec.max}`,
        });
      number = Number.isNaN(number) ? spec.min : heldIn(spec, number);
    }
    numbers.set(path, number);
    return number;
  };

  const throughLink = (path: string, link: Link): number => {
    const target = specs.get(link.of);
    if (target?.kind !== 'number') {
      faults.push({ path: `${path}.of`, found: JSON.stringify(link.of), expected: 'the path of a number' });
      return Number.NaN;
    }
    if (link.of === path || underWay.includes(link.of)) {
      const from = underWay.indexOf(link.of);
      const loop = [...(from < 0 ? [] : underWay.slice(from)), path, link.of];
      faults.push({ path, found: `a loop of links (${loop.join(' → ')})`, expected: 'links that end at a number' });
      return Number.NaN;
    }
    underWay.push(path);
    const value = follow(link, resolve(link.of, target));
    underWay.pop();
    return value;
  };

  for (const [path, spec] of specs) if (spec.kind === 'number') resolve(path, spec);
  return { numbers, faults };
}
