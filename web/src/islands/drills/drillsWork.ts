import { useStore } from '@nanostores/react';
import { drills, judgeTargets, type Metrics, metricKey, type Target, type TargetSet } from '@zygopod/core';
import { atom, type WritableAtom } from 'nanostores';
import { createContext, useContext, useMemo } from 'react';
import type { Judgement } from '../../workers/drills.ts';
import { Judge } from '../judging/judge.ts';
import { chooseTargets, fetchTargets, keepChoice, listSets, unsavedTargets } from '../judging/targets.ts';
import type { TuningWork } from '../tuning/context.ts';
import type { KeptReport } from './reports.ts';
import type { Drawn } from './shapes.ts';
import { TriedBefore } from './triedBefore.ts';

/** Seconds after which a measurement is abandoned. */
export const PATIENCE = 30;

/** How the drills are ordered. */
export type Order = 'out' | 'work' | 'changed';

/** The targets in force: a kept set, perhaps changed since, or one that is in no document yet. */
interface Judging {
  set: TargetSet;
  id: string | null;
  head: number;
  isChanged: boolean;
}

const none: TargetSet = { format: 'zygopod/targets', version: 1, name: 'No targets', note: '', targets: [] };

/** State of the Drills screen: the tuning, its current and earlier results, and the targets. */
export interface DrillsWork {
  work: TuningWork;
  now: Judge;
  before: Judge;
  $judging: WritableAtom<Judging>;
  $picked: WritableAtom<string>;
  $order: WritableAtom<Order>;
  /** A kept report that it is compared with, in place of the last revision. */
  $against: WritableAtom<KeptReport | null>;
  /** Results of varied numbers. */
  tried: TriedBefore;
}

/** An earlier state of the tuning: its metrics, and its drills if they were run here. */
export interface Was {
  metrics: Metrics;
  drills: Judgement['drills'];
}

export const DrillsContext = createContext<DrillsWork | null>(null);

export function useDrills(): DrillsWork {
  const drilled = useContext(DrillsContext);
  if (!drilled) throw new Error('no drills');
  return drilled;
}

/** The drill that an address' hash names, else the first one. */
const pickedBy = (hash: string): string => (drills.find(({ name }) => `#${name}` === hash) ?? drills[0])?.name ?? '';

/** The state to compare with: a saved report, else the last revision. */
export function useWas(): Was | null {
  const { before, $against } = useDrills();
  const judged = useStore(before.$judged);
  const against = useStore($against);
  return useMemo(() => (against ? { metrics: against.metrics, drills: [] } : (judged?.judgement ?? null)), [against, judged]);
}

export function openDrillsWork(work: TuningWork): DrillsWork {
  return {
    work,
    now: new Judge(),
    before: new Judge({ finds: false }),
    $judging: atom({ set: none, id: null, head: 0, isChanged: false }),
    $picked: atom(pickedBy(window.location.hash)),
    $order: atom<Order>('out'),
    $against: atom(null),
    tried: new TriedBefore(),
  };
}

/** Judges by the bands that were changed last and not saved, else by the set that was chosen; says why it cannot. */
export async function judgeAsBefore(drilled: DrillsWork): Promise<string | null> {
  const { id } = drilled.work.opening.tuning;
  const unsaved = unsavedTargets(id);
  if (unsaved) {
    drilled.$judging.set({ ...unsaved, isChanged: true });
    return null;
  }
  const chosen = chooseTargets(await listSets(), id);
  return chosen ? judgeBy(drilled, chosen) : null;
}

/** Fetches a set of targets and judges by it; says why not. Which one a tuning is judged by is kept in this browser. */
export async function judgeBy({ $judging, work }: DrillsWork, id: string): Promise<string | null> {
  const found = await fetchTargets(id);
  if ('why' in found) return found.why;
  $judging.set({ ...found, isChanged: false });
  keepChoice(work.opening.tuning.id, id);
  return null;
}

/** How a drill stands: its part of the judgement now and before, its main metric or, where only another one is out, that one, its band, and whether all of its metrics are in theirs. */
export interface Standing {
  name: string;
  title: string;
  /** The metric shown for the drill, and its main one. */
  key: keyof Metrics;
  main: keyof Metrics;
  part: Judgement['drills'][number] | null;
  was: Judgement['drills'][number] | null;
  value: number | null;
  before: number | null;
  target: Target | null;
  state: 'in' | 'out' | 'free' | 'not';
}

/** How all drills stand, in the order of work. */
export function standings(now: Judgement | null, before: Was | null, targets: readonly Target[]): Standing[] {
  return drills.map(({ name, title, main, at }) => {
    const part = now?.drills.find((one) => one.name === name) ?? null;
    const was = before?.drills.find((one) => one.name === name) ?? null;
    const judged = judgeTargets(targets, part?.metrics ?? {}, part?.absent);
    const own = judged.filter(({ ok }) => ok !== null);
    const missed = own.filter(({ ok }) => ok === false).map((target) => metricKey(target.metric, target.at));
    const mainKey = metricKey(main, at);
    const key = missed.length === 0 || missed.includes(mainKey) ? mainKey : (missed[0] ?? mainKey);
    return {
      name,
      title,
      key,
      main: mainKey,
      part,
      was,
      value: part?.metrics[key] ?? null,
      before: before?.metrics[key] ?? null,
      target: targets.find((target) => metricKey(target.metric, target.at) === key) ?? null,
      state: missed.length > 0 ? 'out' : !part || part.not !== null ? 'not' : own.length === 0 ? 'free' : 'in',
    };
  });
}

/** How much a drill's main metric has changed, relative to the larger of both. */
function change({ main, part, was }: Standing): number {
  const [value, before] = [part?.metrics[main] ?? null, was?.metrics[main] ?? null];
  if (value === null || before === null) return value === before ? 0 : 1;
  return Math.abs(value - before) / Math.max(Math.abs(value), Math.abs(before), 1e-9);
}

/** Standings in an order; what does not apply comes last. */
export function ordered(all: readonly Standing[], order: Order): Standing[] {
  const rank = { out: 0, in: 1, free: 1, not: 2 };
  const applies = (a: Standing, b: Standing) => Number(a.state === 'not') - Number(b.state === 'not');
  if (order === 'out') return all.toSorted((a, b) => rank[a.state] - rank[b.state]);
  return all.toSorted((a, b) => applies(a, b) || (order === 'changed' ? change(b) - change(a) : 0));
}

/** True if a drill is drawn as a path over the ground, false as a value over time. */
export const isPath = (name: string): boolean => drills.find((drill) => drill.name === name)?.drawing === 'path';

/** The drills that were run, as they are drawn. */
export const drawnOf = (all: readonly Standing[]): (Drawn & { title: string })[] =>
  all.flatMap(({ name, title, part, was, state }) => (part && state !== 'not' ? [{ title, part, was, isPath: isPath(name) }] : []));

/** The targets with another band for a metric; with none, that metric is free. */
export function withBand(targets: readonly Target[], target: Target, band: { min?: number; max?: number } | null): Target[] {
  const isIt = (one: Target) => metricKey(one.metric, one.at) === metricKey(target.metric, target.at);
  const others = targets.filter((one) => !isIt(one));
  const at = target.at === undefined ? {} : { at: target.at };
  return band ? [...others, { metric: target.metric, ...at, ...band }] : others;
}
