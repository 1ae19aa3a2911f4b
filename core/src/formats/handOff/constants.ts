import { matters, type Parameters, specs } from '../../tuning/catalogue/catalogue.ts';
import type { NumberSpec } from '../../tuning/catalogue/specs.ts';
import { shortNumber } from '../../tuning/expression.ts';
import { isLink } from '../../tuning/links.ts';
import { HALF_LIVES_TO_90, stopDistance } from '../../tuning/outcomes.ts';
import { rawAt, type Tuning, valueAt } from '../../tuning/tuning.ts';
import { linkWords } from '../../tuning/words.ts';
import { type GameUnits, gameDecimal, gameUnitWords, inGameUnits } from './units.ts';

/** A value as it goes into a game. */
export type ConstantValue = number | boolean | string | readonly ConstantValue[];

/** A constant that is handed over. */
export interface Constant {
  path: string;
  /** The words of its name, in no case yet; or the game's own name for it. */
  words: readonly string[];
  own: string | null;
  value: ConstantValue;
  /** A number's shortest text that reads back as the same double in the tuning. */
  decimal?: string;
  /** Its unit; empty if it has none. */
  unit: string;
  /** Its effect: `stops within 7 px`. */
  outcome: string;
  /** The group of the catalogue that it is in. */
  group: string;
}

/** Parameters that are known by their own names; so are all of the pace. */
const plainPaths = new Set(['ramp.accelerate', 'ramp.decelerate', 'ramp.brake']);

/** The words of a parameter's name, preceded by its group's where its own are ambiguous. */
export function wordsOfPath(path: string): string[] {
  const parts = path.split('.');
  const words = parts.flatMap((part) =>
    part
      .replace(/([a-z\d])([A-Z])/g, '$1 $2')
      .toLowerCase()
      .split(' '),
  );
  return parts[0] === 'pace' || plainPaths.has(path) ? words.slice(1) : words;
}

/** The effect of a number in the game's own units, in a few words; empty if that adds nothing to the number. */
function outcomeOf(path: string, { pace, ramp, stamina, clock, camera, facing }: Parameters, unit: 'px' | 'm', units: GameUnits): string {
  const words = (value: number, quantity: 'time' | 'length') =>
    `${shortNumber(inGameUnits(value, quantity, unit, units), 3)} ${gameUnitWords(quantity, units)}`;
  const { walkSpeed: walk } = pace;
  if (path === 'ramp.accelerate') return `${words(walk / ramp.accelerate, 'time')} to walk`;
  if (path === 'ramp.decelerate')
    return `stops within ${words(stopDistance(walk, ramp.decelerate, 1 / clock.hz, clock.integration), 'length')}`;
  if (path === 'ramp.halfLife') return `${words(ramp.halfLife * HALF_LIVES_TO_90, 'time')} to 90 %`;
  if (path === 'stamina.drain' && stamina.drain > 0) return `empty in ${words(stamina.max / stamina.drain, 'time')}`;
  if (path === 'stamina.regain' && stamina.regain > 0) return `full in ${words(stamina.max / stamina.regain, 'time')}`;
  if (path === 'camera.halfLife') return `${words(camera.halfLife * HALF_LIVES_TO_90, 'time')} to 90 %`;
  if (path === 'facing.rate' && facing.rate > 0) return `half a turn in ${words(180 / facing.rate, 'time')}`;
  return '';
}

/** A number that cannot be handed over in these units. */
export interface ConstantFault {
  path: string;
  why: string;
}

/**
 * The constants of a tuning in the game's units, in the catalogue's order: those that it uses, or all. A value that these units cannot express is a
 * fault. `names` is the game's names of parameters, by their paths.
 */
export function constantsOf(
  { file, parameters }: Tuning,
  { units, names, all }: { units: GameUnits; names: Readonly<Record<string, string>>; all: boolean },
): { constants: Constant[]; faults: ConstantFault[] } {
  const unit = file.unit ?? 'px';
  const constants: Constant[] = [];
  const faults: ConstantFault[] = [];
  for (const [path, spec] of specs) {
    if (!all && !matters(path, parameters)) continue;
    const raw = valueAt(parameters, path);
    const isNumber = spec.kind === 'number';
    const decimal = isNumber ? gameDecimal(raw as number, (spec as NumberSpec).quantity, unit, units) : null;
    const value = decimal === null ? (raw as ConstantValue) : Number(decimal);
    if (isNumber && (!Number.isFinite(value) || (value === 0 && raw !== 0)))
      faults.push({ path, why: `${shortNumber(raw as number)} becomes ${value} in these units` });
    const written = rawAt(file, path);
    const follows = isLink(written) ? linkWords(written) : '';
    constants.push({
      path,
      words: wordsOfPath(path),
      own: Object.hasOwn(names, path) ? (names[path] as string) : null,
      value,
      ...(decimal === null ? {} : { decimal }),
      unit: isNumber ? gameUnitWords((spec as NumberSpec).quantity, units) : '',
      outcome: [follows, outcomeOf(path, parameters, unit, units)].filter(Boolean).join(', '),
      group: path.split('.')[0] as string,
    });
  }
  return { constants, faults };
}
