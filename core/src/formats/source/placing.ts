import { specs } from '../../tuning/catalogue/catalogue.ts';
import type { Spec } from '../../tuning/catalogue/specs.ts';
import type { Found, ListValue } from './found.ts';
import { choiceOf, flagOf, type Meaning, meaningOf } from './meanings.ts';
import { isNeutral, isOthers, isPlayers, namingWords, wordsOf } from './vocabulary.ts';

/** The proposed meaning of a number, flag or word. */
export interface Placed {
  found: Found;
  /** The parameter; null: it stays in the note. */
  path: string | null;
  /** How it is to be taken, if not as it stands. */
  as?: Meaning['as'];
  /** The value of a flag or a word there. */
  says?: boolean | string | ListValue;
  /** Not sure: it is marked as a guess. */
  isGuess: boolean;
  /** Why, in words. */
  why: string;
}

/** A path that names a parameter of the catalogue by itself: `pace.walkSpeed`. */
function ownPath({ name, kind }: Found): string | null {
  const path = [...specs.keys()].find((one) => name === one || name.endsWith(`.${one}`));
  const spec = path === undefined ? undefined : specs.get(path);
  return spec && fitsKind(kind, spec.kind) ? (path as string) : null;
}

/** True if what is written as it is can be what a parameter takes. */
const fitsKind = (kind: Found['kind'], of: Spec['kind']): boolean =>
  kind === 'number'
    ? of === 'number'
    : kind === 'flag'
      ? of === 'flag'
      : kind === 'word'
        ? of === 'choice'
        : of === 'set' || of === 'curve';

/**
 * The same, with names whose parameters are known (by their whole name, or its last part): they are what they are called. A number may choose
 * one of several, and say yes or no.
 */
export function placeKnown(placed: readonly Placed[], known: ReadonlyMap<string, string>, why: string): Placed[] {
  const hits = placed.map(({ found }) => known.get(found.name) ?? known.get(found.own));
  const taken = new Set(hits.filter((path) => path !== undefined));
  return placed.map((one, i): Placed => {
    const path = hits[i];
    if (path !== undefined) return knownAs(one, path, why);
    return one.path !== null && taken.has(one.path) ? left(one, `${specs.get(one.path)?.label.toLowerCase()} is another one already`) : one;
  });
}

/** The names of placed numbers, made unique: the second `speed` is `speed (2)`. */
export function uniqueNames(placed: readonly Placed[]): string[] {
  const counts = new Map<string, number>();
  return placed.map(({ found: { name } }) => {
    const count = (counts.get(name) ?? 0) + 1;
    counts.set(name, count);
    return count === 1 ? name : `${name} (${count})`;
  });
}

/** The parameter of each unique name, without the guesses; null: none. */
export function choicesOf(placed: readonly Placed[]): Record<string, string | null> {
  const names = uniqueNames(placed);
  return Object.fromEntries(placed.map(({ path, isGuess }, i) => [names[i] as string, isGuess ? null : path]));
}

/** The same, with the parameter of each unique name as it was chosen; null: none. A parameter that was chosen is nobody else's. */
export function placeByHand(
  placed: readonly Placed[],
  chosen: Readonly<Record<string, string | null>>,
  why: (path: string | null) => string,
): Placed[] {
  const paths = uniqueNames(placed).map((name) => (Object.hasOwn(chosen, name) ? (chosen[name] as string | null) : undefined));
  const taken = new Set(paths.filter((path) => typeof path === 'string'));
  return placed.map((one, i): Placed => {
    const path = paths[i];
    if (path === null) return left(one, why(path));
    if (path !== undefined) return knownAs(one, path, why(path));
    return one.path !== null && taken.has(one.path) ? left(one, 'you chose another for it') : one;
  });
}

function knownAs(one: Placed, path: string, why: string): Placed {
  const { found } = one;
  const { kind } = specs.get(path) as Spec;
  // A confirmed proposal keeps its reading: half of a width, a ratio to the walk, the option that a word stands for.
  if (one.path === path) return { ...one, isGuess: false, why };
  if (kind === 'number') return found.kind === 'number' ? { found, path, isGuess: false, why } : left(one, 'it isn’t a number');
  const { value } = found;
  const says = kind === 'flag' ? (typeof value === 'number' ? value !== 0 : value) : kind === 'choice' ? String(value) : value;
  return { found, path, says: says as NonNullable<Placed['says']>, isGuess: false, why };
}

interface Meant {
  words: string[];
  meaning: Meaning;
  says?: boolean | string;
  isGuess: boolean;
}

/** The meaning of words for a number, a flag or a word. */
function meantBy(words: readonly string[], { kind, value }: Found): Pick<Meant, 'meaning' | 'says'> | null {
  if (kind === 'flag') {
    const path = flagOf(words);
    return path ? { meaning: { path, words, isSure: true }, says: value as boolean } : null;
  }
  const choice = choiceOf(words, String(value).toLowerCase());
  if (choice) return { meaning: { path: choice.path, words, isSure: true }, says: choice.says };
  const meaning = kind === 'number' ? meaningOf(words) : null;
  return meaning && specs.get(meaning.path)?.kind === 'number' ? { meaning } : null;
}

/** The words of what a number stands in are tried with its own, from all of them to none. What only an unknown thing stands around is a guess. */
function meaningIn(found: Found): Meant | null {
  const scopes = found.scopes.map(wordsOf);
  const own = wordsOf(found.own);
  if ([...scopes, own].some((words) => isOthers(words) && !isPlayers(words))) return null;
  let isGuess = false;
  for (let from = 0; from <= scopes.length; from++) {
    const words = namingWords([...scopes.slice(from).flat(), ...own]);
    const meant = words.length > 0 ? meantBy(words, found) : null;
    if (meant) return { ...meant, words, isGuess: isGuess || !meant.meaning.isSure };
    const scope = scopes[from];
    if (scope && !isNeutral(scope)) isGuess = true;
  }
  return null;
}

function placeOne(found: Found): Placed {
  const path = ownPath(found);
  const says = found.kind === 'number' ? {} : { says: found.value as boolean | string | ListValue };
  if (path) return { found, path, isGuess: false, why: 'its name is the path', ...says };
  const meant = meaningIn(found);
  if (!meant) return { found, path: null, isGuess: false, why: 'its name gives no clue' };
  const { meaning, words, isGuess } = meant;
  const label = specs.get(meaning.path)?.label.toLowerCase();
  return {
    found,
    path: meaning.path,
    ...(meaning.as ? { as: meaning.as } : {}),
    ...(meant.says === undefined ? {} : { says: meant.says }),
    isGuess,
    why: isGuess ? `“${words.join(' ')}” may be ${label}` : `“${words.join(' ')}” is ${label}`,
  };
}

const left = ({ found }: Placed, why: string): Placed => ({ found, path: null, isGuess: false, why });

/**
 * Proposes a parameter for each number, flag and word, with the reason; unknown ones stay in the note. The set is read as a whole: a run speed where
 * nothing walks but something multiplies it is the base, and of several things with the same numbers one is played.
 */
export function placeNumbers(all: readonly Found[]): Placed[] {
  const placed = all.map(placeOne);
  readTimes(placed);
  readPaces(placed);
  readTurns(placed, all);
  readTogether(placed);
  return onlyThePlayed(placed);
}

/** An acceleration in milliseconds or frames is the time that it takes. */
function readTimes(placed: Placed[]): void {
  for (const one of placed) {
    const words = wordsOf(one.found.own);
    const isTime = ['millisecond', 'second', 'frame'].some((word) => words.includes(word)) && !words.includes('per');
    if (!isTime || one.as || (one.path !== 'ramp.accelerate' && one.path !== 'ramp.decelerate')) continue;
    one.as = one.path === 'ramp.accelerate' ? 'timeToWalk' : 'timeToStop';
  }
}

const saysRun = ({ found }: Placed) => [...found.scopes, found.own].some((name) => wordsOf(name).includes('run'));

/** Which of the speeds is the base: a run where nothing walks, with a sprint or a factor on top, or alone. */
function readPaces(placed: Placed[]): void {
  const isSprint = (one: Placed) => one.path === 'pace.sprintSpeed';
  const walks = placed.filter(({ path }) => path === 'pace.walkSpeed');
  const runs = placed.filter((one) => isSprint(one) && !one.as && saysRun(one));
  const more = placed.filter((one) => isSprint(one) && !runs.includes(one));
  if (runs.length > 0 && walks.length === 0) {
    const isOnTop = more.some(({ isGuess, as }) => !isGuess || as);
    const isBase = isOnTop || more.length === 0;
    if (isBase)
      for (const one of runs) {
        const why = isOnTop
          ? 'there is no walk here, and a sprint is added to the run'
          : 'there is no walk here: the run may be the steady speed';
        Object.assign(one, { path: 'pace.walkSpeed', isGuess: !isOnTop || one.isGuess, why });
      }
  }
  // Beside a speed, what dashes or multiplies is the sprint.
  const hasWalk = placed.some(({ path, isGuess }) => path === 'pace.walkSpeed' && !isGuess);
  for (const one of more) if (hasWalk && one.as === 'ratioToWalk' && more.length === 1 && runs.length > 0) one.isGuess = false;
}

/** Words of games that turn and drive. */
const drives = new Set(['drive', 'steer', 'throttle', 'backward', 'wheel']);

/** A turn rate of a body that turns and drives, or is steered, is how fast its motion turns. */
function readTurns(placed: Placed[], all: readonly Found[]): void {
  const scheme = placed.some(({ path, says }) => path === 'scheme' && says === 'turn');
  const names = all.flatMap(({ scopes, own }) => [...scopes, own].flatMap(wordsOf));
  const isDriven = scheme || names.some((word) => word !== 'backward' && drives.has(word));
  if (!isDriven || names.includes('facing')) return;
  for (const one of placed)
    if (one.path === 'facing.rate')
      Object.assign(one, { path: 'ramp.turnRate', isGuess: true, why: 'turn and drive: the turn rate of its motion' });
}

/** Ambiguous names are settled by others beside them. */
function readTogether(placed: Placed[]): void {
  const isSure = (group: string) => placed.some(({ path, isGuess }) => path?.startsWith(group) && !isGuess);
  const settles: readonly [string, boolean][] = [
    ['stamina.', isSure('stamina.')],
    ['step.time', isSure('step.cell') || isSure('step.b')],
    ['pace.walkSpeed', isSure('ramp.accelerate') && (isSure('ramp.decelerate') || isSure('pace.sprintSpeed'))],
  ];
  for (const one of placed) {
    const hit = one.isGuess && settles.find(([group, is]) => is && one.path?.startsWith(group));
    const isKnown = one.found.scopes.map(wordsOf).every((words) => isNeutral(words) || isPlayers(words));
    if (hit && isKnown && one.why.startsWith('“'))
      Object.assign(one, { isGuess: false, why: one.why.replace(' may be ', ', beside the others, is ') });
  }
}

/** How many scopes two findings share from the outside. */
function shared(a: Found, b: Found): number {
  let i = 0;
  while (i < a.scopes.length && a.scopes[i] === b.scopes[i]) i++;
  return i;
}

/** Of several for one parameter the player's is taken, then the surer, then the first; and nothing of the things that the others stand in. */
function onlyThePlayed(placed: Placed[]): Placed[] {
  const isPlayed = ({ found }: Placed) => [...found.scopes, found.own].some((name) => isPlayers(wordsOf(name)));
  const rank = (one: Placed) => (isPlayed(one) ? 4 : 0) + (one.isGuess ? 0 : 2) + (one.found.times ? 1 : 0);
  const taken = new Map<string, Placed>();
  for (const one of placed) {
    const other = one.path ? taken.get(one.path) : undefined;
    if (one.path && (!other || rank(one) > rank(other))) taken.set(one.path, one);
  }
  const foreign = new Set<string>();
  for (const one of placed) {
    const winner = one.path ? taken.get(one.path) : undefined;
    if (!winner || winner === one) continue;
    const at = shared(winner.found, one.found);
    if (at < one.found.scopes.length && at < winner.found.scopes.length) foreign.add(one.found.scopes.slice(0, at + 1).join('\n'));
  }
  const isForeign = ({ found }: Placed) => found.scopes.some((_, i) => foreign.has(found.scopes.slice(0, i + 1).join('\n')));
  return placed.map((one) => {
    if (!one.path) return one;
    if (isForeign(one) && !isPlayed(one)) return left(one, 'it belongs to something else here');
    const winner = taken.get(one.path);
    if (winner === one) return one;
    return left(one, `${specs.get(one.path)?.label.toLowerCase()} is another one already: ${winner?.found.name}`);
  });
}
