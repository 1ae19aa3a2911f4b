import {
  isLink,
  numberAt,
  numberSpec,
  rawAt,
  resolveTuning,
  type Standalone,
  specs,
  standalone,
  type Tuning,
  withValue,
} from '@zygopod/core';
import { CannotHold, Live } from './fold/values.ts';

/** A parameter that stays a variable: its field of the body, and its value at the start. */
export interface LiveNumber {
  path: string;
  field: string;
  value: number;
}

/** The field of a live parameter: `livePaceWalkSpeed`. */
const liveField = (path: string): string =>
  `live${path
    .split('.')
    .map((word) => `${word[0]?.toUpperCase()}${word.slice(1)}`)
    .join('')}`;

/** Values that a parameter is tried with, besides its own; those out of its range are left out. */
const TRIED = [0, 1e-3, 0.37, 1, 7.25, 123.5, 4321, 1e5];

type Plan = Standalone['plan'];

/** Parts of a plan that code doesn't hold: the game plans its paths itself. */
const ELSEWHERE = new Set(['navigator']);

/** Visits the numbers, flags and words of a plan, each by its place. Lists of numbers are no settings. */
function* leaves(of: unknown, place: string, seen = new Set<unknown>()): Generator<[string, unknown]> {
  if (typeof of !== 'object' || of === null) {
    if (typeof of !== 'function') yield [place, of];
    return;
  }
  if (seen.has(of)) return;
  seen.add(of);
  if (Array.isArray(of) || ArrayBuffer.isView(of)) {
    yield [place, Array.from(of as ArrayLike<number>).join()];
    return;
  }
  for (const [name, part] of Object.entries(of))
    if (!ELSEWHERE.has(name)) yield* leaves(part, place === '' ? name : `${place}.${name}`, seen);
}

/** A copy of a plan in which the numbers at some places are live. */
function withLive(of: unknown, place: string, live: ReadonlyMap<string, Live>): unknown {
  const own = live.get(place);
  if (own) return own;
  if (typeof of !== 'object' || of === null || Array.isArray(of) || ArrayBuffer.isView(of)) return of;
  // Only what holds a live number is another object: scratch objects stay themselves.
  if (![...live.keys()].some((one) => place === '' || one.startsWith(`${place}.`))) return of;
  return Object.fromEntries(
    Object.entries(of).map(([name, part]) => [name, withLive(part, place === '' ? name : `${place}.${name}`, live)]),
  );
}

/** The parts of a plan that are made of a parameter: all are to be the number itself. */
function placesOf(tuning: Tuning, path: string, plan: Plan, isNeeded = true): string[] {
  const spec = numberSpec(path);
  const own = numberAt(tuning.parameters, path);
  const before = new Map(leaves(plan, ''));
  const found = new Set<string>();
  for (const value of [own * 1.25 + 0.125, ...TRIED]) {
    if (value < spec.min || value > spec.max) continue;
    const read = resolveTuning(withValue(withLinksCut(tuning, path), path, value));
    if (!read.ok) continue;
    for (const [place, now] of leaves(standalone(read.value.parameters).plan, '')) {
      if (Object.is(now, before.get(place))) continue;
      if (now !== value) throw new CannotHold(`${path} can’t be live: the motion uses what is computed from it (${place})`);
      found.add(place);
    }
  }
  if (found.size === 0 && isNeeded) throw new CannotHold(`${path} can’t be live: this tuning doesn’t use it`);
  return [...found];
}

/** The tuning's file with every number in place of its link: in code each number stands by itself. */
function withLinksCut({ file, parameters }: Tuning, except: string): Tuning['file'] {
  let cut = file;
  for (const [path, spec] of specs) if (spec.kind === 'number' && path !== except) cut = withValue(cut, path, numberAt(parameters, path));
  return cut;
}

/** The numbers that follow one by links, each with what it becomes; those that are live themselves follow none. */
function* followers({ file }: Tuning, path: string, live: Live, itself: ReadonlySet<string>): Generator<[string, Live]> {
  for (const [other, spec] of specs) {
    const raw = spec.kind === 'number' && !itself.has(other) ? rawAt(file, other) : null;
    if (!isLink(raw) || raw.of !== path) continue;
    const own = live.linked(raw.times ?? 1, raw.plus ?? 0);
    yield [other, own];
    yield* followers({ file } as Tuning, other, own, itself);
  }
}

/** Makes numbers of a plan live, and what follows them by links. Throws `CannotHold` for a parameter that isn't used as it is. */
export function madeLive(tuning: Tuning, plan: Plan, paths: readonly string[]): { plan: Plan; numbers: LiveNumber[] } {
  const live = new Map<string, Live>();
  const itself = new Set(paths);
  const numbers = paths.map((path): LiveNumber => {
    if (specs.get(path)?.kind !== 'number') throw new CannotHold(`${path} can’t be live: it is no number of a tuning`);
    const own = new Live(liveField(path));
    for (const place of placesOf(tuning, path, plan)) live.set(place, own);
    for (const [other, followed] of followers(tuning, path, own, itself))
      for (const place of placesOf(tuning, other, plan, false)) live.set(place, followed);
    return { path, field: own.field, value: numberAt(tuning.parameters, path) };
  });
  return { plan: withLive(plan, '', live) as Plan, numbers };
}
