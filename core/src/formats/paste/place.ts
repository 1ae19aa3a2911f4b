import { specs } from '../../tuning/catalogue/catalogue.ts';
import { heldIn, isWhole, type Quantity } from '../../tuning/catalogue/specs.ts';
import { shortNumber } from '../../tuning/expression.ts';
import type { FileValue, TuningFile } from '../../tuning/schema.ts';
import { newTuning, numberSpec, resolveTuning, withValue } from '../../tuning/tuning.ts';
import type { Found } from './found.ts';
import { type Meaning, meaningOf, tellingWords, wordsOf } from './words.ts';

/** In which units the numbers of a game stand: asked once. */
export interface PastedUnits {
  length: 'px' | 'm' | 'tiles';
  /** Pixels of a tile. */
  tile: number;
  time: 'second' | 'frame';
  /** Frames a second. */
  hz: number;
}

/** What a number is taken for. */
export interface Placed {
  found: Found;
  /** The parameter; null: it stays in the note. */
  path: string | null;
  /** How it is to be taken, if not as it stands. */
  as?: Meaning['as'];
  /** Not sure: it is marked as a guess. */
  isGuess: boolean;
  /** Why, in words. */
  why: string;
}

/** The words of what a number stands in are tried with its own, from all of them to none. */
function meaningIn(name: string): { meaning: Meaning; words: string[] } | null {
  const parts = name.split('.');
  const own = wordsOf(parts.at(-1) ?? '');
  for (let from = 0; from < parts.length; from++) {
    const words = tellingWords([...parts.slice(from, -1).flatMap(wordsOf), ...own]);
    const meaning = words.length > 0 ? meaningOf(words) : null;
    if (meaning) return { meaning, words };
    // What cannot be told of a name with all that it stands in is not told by leaving out what is no filler.
    if (from < parts.length - 1 && tellingWords(wordsOf(parts[from] ?? '')).some((word) => !sections.has(word))) return null;
  }
  return null;
}

/** Words of sections that say no more than the names within them. */
const sections = new Set([
  'move',
  'speed',
  'stick',
  'input',
  'stamina',
  'body',
  'ground',
  'camera',
  'click',
  'path',
  'step',
  'cell',
  'turn',
  'walk',
  'sprint',
  'run',
  'rate',
  'tick',
]);

/** A path that names a parameter of the catalogue by itself: `pace.walkSpeed`. */
const ownPath = (name: string): string | null => {
  const found = [...specs.keys()].find((path) => name === path || name.endsWith(`.${path}`));
  return found && specs.get(found)?.kind === 'number' ? found : null;
};

/** Proposes for each number which parameter it is, and why; what no words tell stays in the note. Of two for one parameter the surer is taken. */
export function placeNumbers(all: readonly Found[]): Placed[] {
  const placed = all.map((found): Placed => {
    const path = ownPath(found.name);
    if (path) return { found, path, isGuess: false, why: 'it is called by its path' };
    const told = meaningIn(found.name);
    if (!told) return { found, path: null, isGuess: false, why: 'nothing in its name tells what it is' };
    const { meaning, words } = told;
    const label = specs.get(meaning.path)?.label.toLowerCase();
    return {
      found,
      path: meaning.path,
      ...(meaning.as ? { as: meaning.as } : {}),
      isGuess: !meaning.isSure,
      why: meaning.isSure ? `“${words.join(' ')}” is ${label}` : `“${words.join(' ')}” may be ${label}`,
    };
  });
  const isWalkKnown = placed.some(({ path, isGuess }) => path === 'pace.walkSpeed' && !isGuess);
  for (const one of placed) {
    // Where nothing walks, what runs is the steady speed, perhaps.
    const isRun = one.path === 'pace.sprintSpeed' && !one.as && /(^|[^a-z])run/i.test(one.found.name.split('.').at(-1) ?? '');
    const isOnlyRun = isRun && !isWalkKnown && !placed.some(({ path }) => path === 'pace.walkSpeed');
    if (isOnlyRun)
      Object.assign(one, { path: 'pace.walkSpeed', isGuess: true, why: 'nothing walks here: what runs may be the steady speed' });
  }
  const taken = new Map<string, Placed>();
  for (const one of placed) {
    if (!one.path) continue;
    const other = taken.get(one.path);
    if (!other || (other.isGuess && !one.isGuess)) taken.set(one.path, one);
  }
  return placed.map((one) => {
    if (!one.path || taken.get(one.path) === one) return one;
    const label = specs.get(one.path)?.label.toLowerCase();
    const { as: _, ...rest } = one;
    return { ...rest, path: null, isGuess: false, why: `${label} is another one already: ${taken.get(one.path)?.found.name}` };
  });
}

/** What a hint beside a number says of its unit, by its words. */
const hintWords = ({ name, hint }: Found) =>
  new Set([...wordsOf(name), ...wordsOf(hint.replaceAll('/', ' per ')), ...(/(^|[^\p{L}])m(\/s|$|\s)/u.test(hint) ? ['metre'] : [])]);

/** The units that names, comments and sizes speak for, and why: to be confirmed, never taken silently. */
export function likelyUnits(placed: readonly Placed[]): { units: PastedUnits; why: string[] } {
  const units: PastedUnits = { length: 'px', tile: 32, time: 'second', hz: 60 };
  const why: string[] = [];
  const words = placed.map(({ found }) => hintWords(found));
  const says = (word: string) => words.some((one) => one.has(word));
  const hz = placed.find(({ path, as }) => path === 'clock.hz' && !as);
  if (hz && hz.found.value >= 1) {
    units.hz = hz.found.value;
    why.push(`${hz.found.name} tells ${shortNumber(hz.found.value)} a second`);
  }
  const cell = placed.find(({ path }) => path === 'step.cell');
  const walk = placed.find(({ path }) => path === 'pace.walkSpeed' || path === 'pace.sprintSpeed')?.found.value;
  if (says('metre')) {
    units.length = 'm';
    why.push('a name or comment speaks of metres');
  } else if (cell && cell.found.value > 4 && walk !== undefined && walk <= 12 && !says('pixel')) {
    units.length = 'tiles';
    units.tile = cell.found.value;
    why.push(`a speed of ${shortNumber(walk)} beside cells of ${shortNumber(cell.found.value)} is likely in cells`);
  }
  if (placed.some(({ found }) => /per[_ ]?(frame|tick)|\/\s*(frame|tick)/i.test(`${found.name} ${found.hint}`))) {
    units.time = 'frame';
    why.push('a name or comment says per frame');
  } else if (units.length === 'px' && walk !== undefined && walk > 0 && walk <= 12 && !says('second')) {
    units.time = 'frame';
    why.push(`a speed of ${shortNumber(walk)} is likely in pixels per frame`);
  }
  return { units, why };
}

/** A number in the units of a tuning: lengths in px (or m), times in seconds, angles in degrees. */
export function inUnits(value: number, quantity: Quantity, found: Found, { length, tile, time, hz }: PastedUnits): number {
  const of = length === 'tiles' ? tile : 1;
  const rate = time === 'frame' ? hz : 1;
  const words = hintWords(found);
  const own = new Set(wordsOf(found.name));
  const inRadians =
    words.has('radian') ||
    (quantity === 'angularSpeed' && Math.abs(value) > 0 && Math.abs(value) <= 12.6 && !words.has('degree') && time === 'second');
  const degrees = inRadians ? 180 / Math.PI : 1;
  if (quantity === 'length') return value * of;
  if (quantity === 'speed') return value * of * rate;
  if (quantity === 'acceleration') return value * of * rate * rate;
  if (quantity === 'angle') return value * (words.has('radian') ? 180 / Math.PI : 1);
  if (quantity === 'angularSpeed') return value * degrees * rate;
  if (quantity === 'rate') return value * rate;
  if (quantity === 'ratio') return words.has('percent') ? value / 100 : value;
  if (quantity !== 'time') return value;
  if (own.has('millisecond') || words.has('millisecond')) return value / 1000;
  if (own.has('frame') || own.has('tick') || ((words.has('frame') || words.has('tick')) && !own.has('second'))) return value / hz;
  return time === 'frame' && !own.has('second') && Number.isInteger(value) && value >= 1 ? value / hz : value;
}

/** What of a paste became what. */
export interface PastedTuning {
  file: TuningFile;
  /** Values by path, as the file has them. */
  values: Record<string, FileValue>;
  /** What stays: the numbers that were not placed, and why; kept with the tuning. */
  note: string;
  /** Numbers that were placed but cannot be: where, and why. */
  refused: { path: string; why: string }[];
}

/** Decimal places that a converted number keeps. */
const rounded = (value: number) => Number(value.toPrecision(12));

/** Letters that a note has at the most. */
const LONGEST_NOTE = 1900;

/** Makes the tuning that the placed numbers come to. */
export function pastedTuning(name: string, placed: readonly Placed[], units: PastedUnits): PastedTuning {
  const values: Record<string, FileValue> = {};
  const refused: PastedTuning['refused'] = [];
  const left: string[] = [];
  const byName = new Map(placed.map((one) => [one.found.name.split('.').at(-1) as string, one]));
  const told = ({ found }: Placed) =>
    `${found.name} = ${found.times ? `${shortNumber(found.times.factor)} × ${found.times.of}` : shortNumber(found.value, 6)} (line ${found.line})`;
  /** The number, with the one that it is a ratio to worked out. */
  const numberOf = ({ found }: Placed): number | null => {
    if (!found.times) return found.value;
    const other = byName.get(found.times.of.split('.').at(-1) as string);
    return other && !other.found.times ? other.found.value * found.times.factor : null;
  };
  const walk = placed.find(({ path, as }) => path === 'pace.walkSpeed' && !as);
  const walkSpeed = walk ? inUnits(numberOf(walk) ?? 0, 'speed', walk.found, units) : 140;
  // The walk comes first: others are told by it.
  for (const one of [...placed].sort((a, b) => Number(b.path === 'pace.walkSpeed') - Number(a.path === 'pace.walkSpeed'))) {
    const { path, as, found } = one;
    if (!path) {
      left.push(told(one));
      continue;
    }
    const spec = numberSpec(path);
    const raw = numberOf(one);
    let value: FileValue | null = null;
    const isOfWalk = found.times && byName.get(found.times.of.split('.').at(-1) as string)?.path === 'pace.walkSpeed';
    if (path === 'pace.sprintSpeed' && isOfWalk && found.times) value = { of: 'pace.walkSpeed', times: rounded(found.times.factor) };
    else if (raw === null) value = null;
    else if (as === 'ratioToWalk') value = { of: 'pace.walkSpeed', times: rounded(inUnits(raw, 'ratio', found, units)) };
    else if (as === 'half') value = rounded(inUnits(raw, 'length', found, units) / 2);
    else if (as === 'inverse') {
      // Of a rate the time of one; of a time step the ticks a second.
      const time = path === 'clock.hz' ? inUnits(raw, 'time', found, { ...units, time: 'second' }) : raw;
      value = time > 0 ? rounded(1 / time) : null;
    } else if (as === 'timeToWalk' || as === 'timeToStop') {
      const time = inUnits(raw, 'time', found, units);
      value = time > 0 ? rounded(walkSpeed / time) : null;
    } else {
      // The side of a cell is what a length of one tile is.
      const isTile = path === 'step.cell' && units.length === 'tiles';
      value = isTile ? raw : rounded(inUnits(raw, spec.quantity, found, units));
    }
    const number = typeof value === 'number' ? value : 0;
    const isOut = value !== null && typeof value === 'number' && heldIn(spec, number) !== number;
    if (value === null || isOut) {
      const why = isOut
        ? `${shortNumber(number)} is outside of ${isWhole(spec) ? 'the whole numbers ' : ''}${shortNumber(spec.min)} to ${shortNumber(spec.max)}`
        : 'its number cannot be worked out';
      refused.push({ path, why });
      left.push(`${told(one)}: ${spec.label}, ${why}`);
    } else values[path] = value;
  }
  const has = (group: string) => Object.keys(values).some((path) => path.startsWith(group));
  let file = newTuning(name, units.length === 'm' ? 'm' : 'px');
  const implied: Record<string, FileValue> = {
    ...(has('stamina.') ? { 'stamina.enabled': true } : {}),
    ...(has('route.') ? { 'route.enabled': true } : {}),
    ...((values['step.time'] !== undefined || values['step.buffer'] !== undefined) && values['pace.walkSpeed'] === undefined
      ? { scheme: 'step' }
      : {}),
    ...(values['body.width'] !== undefined && values['body.height'] !== undefined && values['body.radius'] === undefined
      ? { 'body.shape': 'box' }
      : {}),
    ...(values['facing.rate'] !== undefined ? { 'facing.turn': 'rate' } : {}),
    ...(values['ramp.halfLife'] !== undefined && values['ramp.accelerate'] === undefined ? { 'ramp.model': 'smooth' } : {}),
  };
  for (const [path, value] of Object.entries({ ...implied, ...values })) {
    const next = withValue(file, path, value);
    if (resolveTuning(next).ok) file = next;
    else {
      refused.push({ path, why: 'it does not go together with the others' });
      left.push(`${path}: does not go together with the others`);
    }
  }
  const note = left.length > 0 ? `Pasted from code. Not placed: ${left.join('; ')}` : 'Pasted from code.';
  return { file, values, note: note.length > LONGEST_NOTE ? `${note.slice(0, LONGEST_NOTE - 1)}…` : note, refused };
}
