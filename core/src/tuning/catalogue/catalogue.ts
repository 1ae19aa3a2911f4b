import { bounds, contact, facing } from './meeting.ts';
import { body, camera, clock, input, pace, ramp, route, scheme, stamina, step } from './moving.ts';
import type { Group, Quantity, Spec, Values } from './specs.ts';

/** Every parameter of a tuning, once: path, kind, unit, default, range, help and figure. */
export const catalogue = { scheme, body, input, pace, ramp, stamina, contact, bounds, facing, route, step, camera, clock } satisfies Group;

/** All parameters of a tuning with every default filled in and every link resolved. Angles in degrees, as in files. */
export type Parameters = Values<typeof catalogue>;

function isSpec(entry: Spec | Group): entry is Spec {
  return typeof entry['kind'] === 'string';
}

function flatten(group: Group, prefix: string, into: Map<string, Spec>): Map<string, Spec> {
  for (const [name, entry] of Object.entries(group)) {
    const path = prefix ? `${prefix}.${name}` : name;
    if (isSpec(entry)) into.set(path, entry);
    else flatten(entry, path, into);
  }
  return into;
}

/** The rows by dotted path (`pace.walkSpeed`), in the catalogue's order. */
export const specs: ReadonlyMap<string, Spec> = /* @__PURE__ */ flatten(catalogue, '', new Map());

/** The row of a path. Throws on a path that the catalogue does not have: a slip in the program, not in a file. */
export function specOf(path: string): Spec {
  const spec = specs.get(path);
  if (!spec) throw new Error(`no parameter is called ${path}`);
  return spec;
}

/** The unit to show for a quantity, where `length` is the ground's unit (px or m). */
export function unitOf(quantity: Quantity, length: string): string {
  switch (quantity) {
    case 'length':
      return length;
    case 'speed':
      return `${length}/s`;
    case 'acceleration':
      return `${length}/s²`;
    case 'time':
      return 's';
    case 'angle':
      return '°';
    case 'angularSpeed':
      return '°/s';
    case 'rate':
      return '/s';
    case 'frequency':
      return 'Hz';
    case 'ratio':
      return '×';
    case 'amount':
    case 'count':
      return '';
  }
}
