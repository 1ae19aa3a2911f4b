import {
  type Along,
  alongCourse,
  type CoursePath,
  canonicalText,
  type Ground,
  type Lap,
  lapInTrace,
  type Parameters,
  type Rerun,
  type Tape,
  type TuningFile,
  tapeOf,
} from '@zygopod/core';
import { atom } from 'nanostores';
import { Desk } from '../../../workers/desk.ts';
import type { Driven, LapsApi } from '../../../workers/laps.ts';
import { groundMark, type HandLap, lapsOn } from '../../laps/lapStore.ts';
import { type DrivenBy, MANY_LAPS, type PilotChoice, type Ref, usualPilot } from '../../work/comparison.ts';
import { distanceAxis, type StripAxis } from '../axis.ts';
import type { ComparedSide, OpenedSide, SideHands } from '../sides.ts';

/** A side's lap: its numbers, and its progress along the course. */
export interface ReadLap {
  lap: Lap;
  along: Along;
}

/** The planned path for a tuning's body; null while it is planned. */
interface Planned {
  parameters: Parameters;
  key: string;
  path: CoursePath | null;
}

/** Seconds after which a lap, or the plan of a course, is given up. */
const PATIENCE = 60;

/** The hands of a side that has none: the body stands at the start. */
export const noHands: Tape = tapeOf({ name: 'No hands', hz: 60, ticks: 1, events: [] });

/** The comparison whose sides have their own hands. */
interface Compared {
  sides(): readonly ComparedSide[];
  ground(): { ground: Ground; ref: Ref };
  /** Called when hands or a path have come. */
  changed(): void;
}

/** The worker that drives laps and plans courses. */
export type LapsDesk = Pick<Desk<LapsApi>, 'call'>;
export const lapsDesk = (): LapsDesk =>
  new Desk<LapsApi>(() => new Worker(new URL('../../../workers/laps.ts', import.meta.url), { type: 'module' }));

/** Each side's own hands round the course of the ground: the pilot's, or the best lap by hand with just its numbers. */
export class LapHands {
  readonly $by = atom<DrivenBy>('tape');
  readonly $pilot = atom<PilotChoice>(usualPilot);
  readonly #desk: LapsDesk;
  readonly #of: Compared;
  readonly #driven = new Map<string, SideHands>();
  readonly #read = new WeakMap<Rerun, { path: CoursePath; read: ReadLap }>();
  #planned: Planned | null = null;

  constructor(compared: Compared, desk: LapsDesk) {
    this.#of = compared;
    this.#desk = desk;
  }

  get hasCourse(): boolean {
    return this.#of.ground().ground.course !== undefined;
  }

  get gatesInLap(): number {
    return this.#of.ground().ground.course?.gates.length ?? 1;
  }

  /** True while each side has its own hands. */
  get isOn(): boolean {
    return this.$by.get() !== 'tape';
  }

  /** The laps by hand that this browser keeps of the ground as it is now, the fastest first. */
  get byHand(): HandLap[] {
    const { ground, ref } = this.#of.ground();
    const mark = groundMark(ground);
    return lapsOn(ref.id).filter((lap) => !lap.isChanged && lap.ground === mark);
  }

  /** The hands of a side; the pilot's are driven in a worker if they aren't known. */
  of(side: Pick<OpenedSide, 'ref' | 'revision' | 'tuning'>, parameters: Parameters): SideHands {
    if (this.$by.get() === 'pilot') return this.#piloted(side, parameters);
    // The same numbers, in whatever order they are written: the server has an order of its own.
    const numbersOf = (file: TuningFile) => canonicalText({ ...file, name: '' });
    const numbers = numbersOf(side.tuning.file);
    const lap = this.byHand.find(({ tuning }) => numbersOf(tuning.file) === numbers);
    return lap ? { tape: lap.tape, why: null, spread: null } : { tape: null, why: 'no lap by hand with these numbers' };
  }

  #piloted({ ref, revision }: Pick<OpenedSide, 'ref' | 'revision'>, parameters: Parameters): SideHands {
    const { ground } = this.#of.ground();
    const options = this.$pilot.get();
    const key = JSON.stringify([ref, revision, options]);
    const known = this.#driven.get(key);
    if (known) return known;
    const waiting: SideHands = { tape: null, why: null };
    this.#driven.set(key, waiting);
    const come = (hands: SideHands) => {
      this.#driven.set(key, hands);
      this.#of.changed();
    };
    this.#desk
      .call<Driven>(async (remote) => await remote.drive(parameters, ground, options, options.jitter > 0 ? MANY_LAPS : 1), PATIENCE)
      .then(
        (driven) =>
          come(
            'why' in driven ? { tape: null, why: driven.why } : { tape: driven.tape, why: driven.lap.why ?? null, spread: driven.spread },
          ),
        (error) => come({ tape: null, why: error instanceof Error ? error.message : String(error) }),
      );
    return waiting;
  }

  /** The planned path that laps are compared along, for the first side's body; null with one tape, while it is planned, and if it can't be. */
  get path(): CoursePath | null {
    const [first] = this.#of.sides();
    if (!this.isOn || !first) return null;
    const { parameters } = first;
    const { ground } = this.#of.ground();
    if (this.#planned?.parameters === parameters) return this.#planned.path;
    const key = JSON.stringify(parameters);
    if (this.#planned?.key === key) {
      this.#planned.parameters = parameters;
      return this.#planned.path;
    }
    const planned: Planned = { parameters, key, path: null };
    this.#planned = planned;
    void this.#desk
      .call((remote) => remote.plan(parameters, ground), PATIENCE)
      .then((path) => {
        planned.path = path;
        if (this.#planned === planned) this.#of.changed();
      })
      .catch(() => undefined);
    return null;
  }

  /** The lap of a side, once all of it is driven; null with one tape, and while there is none yet. */
  lapOf({ again, hands }: Pick<ComparedSide, 'again' | 'hands'>): ReadLap | null {
    const { path } = this;
    if (!path || !hands?.tape || again.done < again.ticks) return null;
    const known = this.#read.get(again);
    if (known?.path === path) return known.read;
    const { ground } = this.#of.ground();
    const { trace } = again.world;
    const { events, hz } = hands.tape;
    const read = { lap: lapInTrace(trace, ground, events, hz), along: alongCourse(trace, ground, path) };
    this.#read.set(again, { path, read });
    return read;
  }

  /** The distance along the course as an axis, with the moments of a side's lap; null with one tape. */
  axisOf(side: Pick<ComparedSide, 'again' | 'hands'>): StripAxis | null {
    return this.isOn ? distanceAxis(this.lapOf(side)?.along ?? null, this.path?.length ?? 1) : null;
  }
}
