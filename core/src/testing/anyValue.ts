import { heldIn, type Spec } from '../tuning/catalogue/specs.ts';
import type { FileValue } from '../tuning/schema.ts';

/** Another value than the default for a row of the catalogue, of a size that one meets. */
export function anotherValue(spec: Spec, next: () => number): FileValue {
  switch (spec.kind) {
    case 'number': {
      const usual = typeof spec.default === 'number' ? spec.default : 140;
      const value = usual === 0 ? 0.1 + next() * (next() < 0.5 ? 5 : 60) : usual * (0.3 + next() * 2);
      return heldIn(spec, value);
    }
    case 'choice': {
      const others = spec.options.filter((option) => option !== spec.default);
      return others[Math.floor(next() * others.length)] as string;
    }
    case 'set':
      return spec.options.slice(0, 1 + Math.floor(next() * spec.options.length));
    case 'flag':
      return !spec.default;
    case 'curve':
      return [
        [0, 0.2 + next()],
        [0.5, 0.5 + next()],
        [1, 0.2 + next()],
      ];
  }
}

/** A value anywhere in the range of a row, often at an end of it; undefined if it has none to choose. */
export function valueInRange(spec: Spec, next: () => number): FileValue | undefined {
  switch (spec.kind) {
    case 'number': {
      const kind = next();
      const sized = (next() < 0.5 && spec.min < 0 ? -1 : 1) * 10 ** (next() * 8 - 3);
      return kind < 0.15 ? spec.min : kind < 0.3 ? spec.max : heldIn(spec, sized);
    }
    case 'choice':
      return spec.options[Math.floor(next() * spec.options.length)] as string;
    case 'flag':
      return next() < 0.5;
    case 'set':
      return spec.options.filter(() => next() < 0.5);
    case 'curve':
      return undefined;
  }
}
