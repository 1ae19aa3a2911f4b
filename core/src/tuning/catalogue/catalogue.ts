import { body } from './body.ts';
import { camera } from './camera.ts';
import { route } from './clicks.ts';
import { clock } from './clock.ts';
import { bounds } from './edges.ts';
import { facing } from './facing.ts';
import { input, scheme } from './hands.ts';
import { pace, ramp } from './pace.ts';
import type { Circumstance, Figure, Group, Quantity, Spec, Stage, Values } from './specs.ts';
import { stamina } from './stamina.ts';
import { step } from './steps.ts';
import { contact } from './walls.ts';

/** Every parameter of a tuning, once: path, kind, unit, default, range, help and figure. */
export const catalogue = { scheme, body, input, pace, ramp, stamina, contact, bounds, facing, route, step, camera, clock } satisfies Group;

/** All parameters of a tuning with every default filled in and every link resolved. Angles in degrees, as in files. */
export type Parameters = Values<typeof catalogue>;

/** The readers of a group's rows, and the condition for them to matter: always by default. */
const groups: Readonly<Record<keyof typeof catalogue, { stage: Stage; when?: Circumstance }>> = {
  scheme: { stage: 'intent' },
  body: { stage: 'contact' },
  input: { stage: 'intent' },
  pace: { stage: 'gait' },
  ramp: { stage: 'velocity' },
  stamina: { stage: 'gait', when: { 'stamina.enabled': [true] } },
  contact: { stage: 'contact' },
  bounds: { stage: 'bounds' },
  facing: { stage: 'facing' },
  route: { stage: 'route', when: { 'route.enabled': [true] } },
  step: { stage: 'step', when: { scheme: ['step'] } },
  camera: { stage: 'camera' },
  clock: { stage: 'clock' },
};

const groupOf = (path: string) => groups[path.split('.')[0] as keyof typeof catalogue];

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

/** The stage that reads a row. */
export function stageOf(path: string): Stage {
  return specOf(path).stage ?? groupOf(path).stage;
}

/** The rows of a figure: those with a place by it, then the others in the catalogue's order. */
export function rowsOf(figure: Figure): string[] {
  const place = (path: string) => specOf(path).place ?? Infinity;
  return [...specs.keys()]
    .filter((path) => specOf(path).figure === figure)
    .sort((a, b) => (place(a) === place(b) ? 0 : place(a) - place(b)));
}

/** The conditions for a row to matter, as alternatives; empty if it always does. */
function circumstancesOf(path: string): readonly Circumstance[] {
  const { when } = groupOf(path);
  const own = specOf(path).when ?? [];
  if (!when || Object.hasOwn(when, path)) return own;
  return own.length === 0 ? [when] : own.map((circumstance) => ({ ...when, ...circumstance }));
}

/** True if a row can change anything with the others as they are. */
export function matters(path: string, parameters: Parameters): boolean {
  const circumstances = circumstancesOf(path);
  const value = (other: string) => other.split('.').reduce<unknown>((at, name) => (at as Record<string, unknown>)[name], parameters);
  const isSo = ([other, values]: [string, readonly (string | boolean)[]]) => values.includes(value(other) as string | boolean);
  return circumstances.length === 0 || circumstances.some((circumstance) => Object.entries(circumstance).every(isSo));
}

/** The condition for a row to matter, in words; empty if it always does. */
export function whenWords(path: string): string {
  const valueWords = (spec: Spec, value: string | boolean) =>
    typeof value === 'boolean' ? (value ? 'on' : 'off') : (spec.words?.[value] ?? value);
  const one = (circumstance: Circumstance) =>
    Object.entries(circumstance)
      .map(([other, values]) => `${specOf(other).label} is ${values.map((value) => valueWords(specOf(other), value)).join(' or ')}`)
      .join(' and ');
  return circumstancesOf(path).map(one).join(', or ');
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
