/**
 * The kinds of parameter, and the short constructors for the catalogue's rows. A row holds everything about a parameter: validation, JSON Schema,
 * forms, docs and export come from it.
 */

/** The quantity of a number; with the ground's unit it gives the displayed unit (`speed` → `px/s`). */
export type Quantity =
  | 'length'
  | 'speed'
  | 'acceleration'
  | 'time'
  | 'angle'
  | 'angularSpeed'
  | 'rate'
  | 'amount'
  | 'ratio'
  | 'count'
  | 'frequency';

/** The figures that show the rows, in the order of work, with their titles. */
export const figureTitles = {
  pace: 'Pace',
  stamina: 'Stamina',
  walls: 'Walls',
  edges: 'Edges',
  facing: 'Facing',
  clicks: 'Clicks',
  steps: 'Grid steps',
  hands: 'Hands',
  body: 'Body',
  camera: 'Camera',
  clock: 'Clock',
} as const;
export type Figure = keyof typeof figureTitles;

/** A number that follows another: value(of) · times + plus. */
export interface Link {
  of: string;
  times?: number;
  plus?: number;
}

/** The stages of a tick that read rows, and the two places outside of it. */
export type Stage =
  | 'intent'
  | 'step'
  | 'route'
  | 'gait'
  | 'velocity'
  | 'contact'
  | 'bounds'
  | 'facing'
  | 'camera'
  | 'clock'
  | 'drawing'
  | 'devices';

/** Rows by path with the values of which each must have one: all of them have to be so. */
export type Circumstance = Readonly<Record<string, readonly (string | boolean)[]>>;

/** Entries accepted instead of the number: `0.2 s to full` (to walk, or from sprint to walk), `8 px to stop`, `5 s to empty`, `0.15 s to 90 %`. */
export type EntryRule = 'toWalk' | 'toWalkFromSprint' | 'toStop' | 'toFull' | 'toEmpty' | 'toNineTenths';

/** Optional properties of a row. */
interface Further {
  /** Place in the figure; rows without one follow in the catalogue's order. */
  place?: number;
  /** The conditions for the row to matter: one of these. Without any, it changes nothing. */
  when?: readonly Circumstance[];
  entries?: readonly EntryRule[];
  /** Labels of options on screen, where the file's word isn't plain speech. */
  words?: Readonly<Record<string, string>>;
  /** The reader of the row, if it differs from its group's. */
  stage?: Stage;
}

interface Row extends Further {
  label: string;
  help: string;
  figure: Figure;
}
export interface NumberSpec extends Row {
  kind: 'number';
  quantity: Quantity;
  default: number | Link;
  min: number;
  max: number;
}
export interface ChoiceSpec<C extends string = string> extends Row {
  kind: 'choice';
  options: readonly C[];
  default: C;
}
export interface SetSpec<C extends string = string> extends Row {
  kind: 'set';
  options: readonly C[];
  default: readonly C[];
}
export interface FlagSpec extends Row {
  kind: 'flag';
  default: boolean;
}
/** A curve through points [x, y] with x rising from 0 to 1. */
export interface CurveSpec extends Row {
  kind: 'curve';
  default: readonly (readonly [number, number])[];
  min: number;
  max: number;
}
export type Spec = NumberSpec | ChoiceSpec | SetSpec | FlagSpec | CurveSpec;

/** The groups of the catalogue: rows under dotted names, to any depth. */
export interface Group {
  readonly [name: string]: Spec | Group;
}

/** The values that a catalogue describes, with every link resolved. */
export type Values<T> = T extends NumberSpec
  ? number
  : T extends ChoiceSpec<infer C>
    ? C
    : T extends SetSpec<infer C>
      ? readonly C[]
      : T extends FlagSpec
        ? boolean
        : T extends CurveSpec
          ? readonly (readonly [number, number])[]
          : { readonly [K in keyof T]: Values<T[K]> };

const measure =
  (quantity: Quantity, floor: number, ceiling: number) =>
  (figure: Figure, label: string, fallback: number | Link, help: string, min = floor, max = ceiling): NumberSpec => ({
    kind: 'number',
    quantity,
    figure,
    label,
    help,
    default: fallback,
    min,
    max,
  });

/** True if a number counts things, so that it has no fraction. */
export const isWhole = ({ quantity }: NumberSpec): boolean => quantity === 'count';

/** The value nearest to a number that a row can have. */
export function heldIn(spec: NumberSpec, number: number): number {
  const held = Math.min(spec.max, Math.max(spec.min, number));
  return isWhole(spec) ? Math.round(held) : held;
}

/** A row with optional properties. */
export function row<S extends Spec>(further: Further, spec: S): S {
  return { ...spec, ...further };
}

/** Constructors, one a quantity: `(figure, label, default, help, min?, max?)`. */
export const speed = measure('speed', 0, 1e6);
export const acceleration = measure('acceleration', 0, 1e8);
export const distance = measure('length', 0, 1e6);
export const duration = measure('time', 0, 60);
export const angle = measure('angle', -360, 360);
export const turnRate = measure('angularSpeed', 0, 1e6);
export const perSecond = measure('rate', 0, 1e6);
export const amount = measure('amount', 0, 1e6);
export const ratio = measure('ratio', 0, 1);
export const count = measure('count', 1, 64);
export const frequency = measure('frequency', 1, 1000);

export function choice<const C extends string>(
  figure: Figure,
  label: string,
  options: readonly C[],
  fallback: NoInfer<C>,
  help: string,
): ChoiceSpec<C> {
  return { kind: 'choice', figure, label, options, default: fallback, help };
}

export function anyOf<const C extends string>(figure: Figure, label: string, options: readonly C[], help: string): SetSpec<C> {
  return { kind: 'set', figure, label, options, default: [], help };
}

export function flag(figure: Figure, label: string, fallback: boolean, help: string): FlagSpec {
  return { kind: 'flag', figure, label, default: fallback, help };
}

export function curve(figure: Figure, label: string, fallback: CurveSpec['default'], min: number, max: number, help: string): CurveSpec {
  return { kind: 'curve', figure, label, default: fallback, min, max, help };
}
