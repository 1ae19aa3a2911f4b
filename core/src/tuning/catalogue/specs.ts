/**
 * The kinds of parameter, and the short constructors with which the catalogue's rows are written.
 * A row tells everything there is to know about a parameter: from it come validation, JSON Schema, forms, docs and export.
 */

/** What a number measures; with the ground's unit it gives the unit that is shown (`speed` → `px/s`). */
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

/** The figures that show the rows, in the order of work, with what they are called. */
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

interface Row {
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
