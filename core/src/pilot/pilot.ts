import { type Lap, LapTimer, lapOf } from '../course/lap.ts';
import { World } from '../motion/world.ts';
import { Recorder } from '../tape/recorder.ts';
import type { Tape } from '../tape/tape.ts';
import { cellsDriver } from './cellsDriver.ts';
import type { Driver, Look } from './driver.ts';
import { PilotHands } from './hands.ts';
import { deviceFault, type PilotOptions } from './options.ts';
import { pointerDriver } from './pointerDriver.ts';
import { Random } from './random.ts';
import { type Briefing, Progress } from './round.ts';
import { Seen } from './seen.ts';
import { steerDriver } from './steerDriver.ts';
import { turnDriver } from './turnDriver.ts';

/** Seconds without progress along the course after which a lap ends, and the ideal times after which it ends anyway. */
const STUCK = 3;
const IDEAL_TIMES = 10;
/** Seconds without progress after which the pilot goes slowly. */
const CAREFUL = 0.8;
/** Seconds added to that, for the start. */
const START = 3;
/** Seconds between two looks while the hands stay as they are. */
const LOOK = 0.03;
/** Seconds between two new plans of a pilot that is off its line, and their maximum number for one gate. */
const REPLAN = 0.5;
const MOST_REPLANS = 8;
/** Longest lap, ticks. */
const MOST_TICKS = 1_000_000;

/** A lap driven by the pilot. */
export interface PilotLap extends Lap {
  /** Length of the planned path, unit. */
  path: number;
  /** Where and why it ended, if it isn't finished. */
  where?: [number, number];
  why?: string;
}

/** Progress along the course, in samples: crossings first, then the place on the line. */
const progressOf = (crossed: number, sample: number): number => crossed * 1e6 + sample;

/** The driver of a device under a tuning's scheme. */
function driverOf(briefing: Briefing, options: PilotOptions, hands: PilotHands): Driver {
  if (options.device === 'pointer') return pointerDriver(briefing, options, hands);
  if (options.device === 'cells') return cellsDriver(briefing, options, hands);
  return (briefing.parameters.scheme === 'turn' ? turnDriver : steerDriver)(briefing, options, hands);
}

/** The planned path's ideal time: at the highest learned speed. */
function idealTime({ path, skills, parameters: { step, scheme } }: Briefing): number {
  const speed = scheme === 'step' ? step.cell / Math.max(step.time + step.turnTime, 1e-3) : Math.max(skills.walk, skills.sprint);
  return speed > 0 ? path.length / speed : 0;
}

/** Why a course can't be driven at all; null if it may be. */
function hopeless(briefing: Briefing, options: PilotOptions): string | null {
  const { parameters, path, skills, crossings, gates } = briefing;
  if (crossings === 0) return 'the ground has no course';
  const fault = deviceFault(parameters, options.device);
  if (fault) return fault;
  if (path.blocked) return `gate ${(path.blocked.gate % gates.length) + 1}: ${path.blocked.why}`;
  if (parameters.scheme !== 'step' && !(Math.max(skills.walk, skills.sprint) > 0)) return 'the tuning can’t move';
  return null;
}

/**
 * Drives laps of a tuning round its course: looks at the body as it was a reaction ago, chooses what the hands do, and writes a tape by the same
 * recorder as a person's hands. Deterministic: equal briefings, options and seeds give equal tapes.
 */
export class Pilot {
  readonly briefing: Briefing;
  readonly options: PilotOptions;
  readonly world: World;
  readonly #timer: LapTimer;

  constructor(briefing: Briefing, options: PilotOptions) {
    this.briefing = briefing;
    this.options = options;
    const { parameters, ground, walls } = briefing;
    const ticks = Math.min(MOST_TICKS, Math.ceil((IDEAL_TIMES * idealTime(briefing) + START) * parameters.clock.hz) + 1);
    this.world = new World(parameters, ground, Math.max(2, ticks), walls);
    this.#timer = new LapTimer(ground);
  }

  /** Drives one lap from the start of the ground; the world's trace holds it. `seed` varies the jitter. */
  drive(name = 'Lap', seed = this.options.seed): { lap: PilotLap; tape: Tape } {
    const { briefing, world, options } = this;
    const { hz } = briefing.parameters.clock;
    const recorder = new Recorder();
    const timer = this.#timer;
    world.restart();
    timer.begin(world.trace, world.trace.end - 1);
    const why = hopeless(briefing, options) ?? this.#run(recorder, seed);
    const tape: Tape = { ...recorder.tape(name, hz), ground: briefing.ground.name, scheme: briefing.parameters.scheme };
    const { sprint, ...numbers } = lapOf(timer, tape.events, hz);
    const lap = { ...numbers, path: briefing.path.length, sprint };
    if (!why) return { lap, tape };
    return { lap: { ...lap, where: [world.body.x, world.body.y], why }, tape };
  }

  /** Drives to the finish; returns why it ended before. */
  #run(recorder: Recorder, seed: number): string | null {
    const { briefing, options, world } = this;
    const { skills, parameters, gates } = briefing;
    const timer = this.#timer;
    const { trace } = world;
    const dt = world.dt;
    const random = options.jitter > 0 ? new Random(seed) : null;
    const spread = (value: number) => (random ? value * Math.max(0.2, 1 + options.jitter * random.normal()) : value);
    const hands = new PilotHands(recorder, skills);
    const driver = driverOf(briefing, options, hands);
    const progress = new Progress(briefing);
    const seen = new Seen(skills);
    const look: Look = { time: 0, seen, progress, crossed: 0, plans: 0, isCareful: false, shake: 0 };
    const drives = parameters.scheme === 'turn';
    const usesCells = options.device === 'cells';
    const first = trace.end - 1;
    const most = Math.min(MOST_TICKS, Math.ceil((IDEAL_TIMES * idealTime(briefing) + START) / dt));
    let delay = Math.max(0, Math.round(options.reaction / dt));
    let nextLook = 0;
    let best = -1;
    let bestAt = 0;
    let lastReplan = -REPLAN;
    let replans = 0;
    let replannedFor = 0;
    if (driver.fault) return driver.fault;
    driver.begin();
    for (let tick = 0; tick < most; tick++) {
      const now = tick * dt;
      if (now >= nextLook - 1e-9) {
        seen.look(trace, Math.max(first, trace.end - 1 - delay), now, drives);
        look.time = now;
        look.crossed = timer.crossed;
        look.isCareful = now - bestAt > CAREFUL;
        progress.locate(seen.x, seen.y, timer.crossed);
        if (!usesCells) {
          if (timer.crossed !== replannedFor) {
            replannedFor = timer.crossed;
            replans = 0;
          }
          if (now - lastReplan >= REPLAN && replans < MOST_REPLANS && (look.isCareful || progress.isLost(seen.x, seen.y, timer.crossed))) {
            lastReplan = now;
            replans++;
            if (progress.replan(seen.x, seen.y, timer.crossed)) {
              look.plans++;
              best = -1;
            }
          }
        }
        if (random) look.shake = 0.15 * options.jitter * random.normal();
        const isChanged = driver.decide(look);
        // Carefully: one thing at a time, each seen before the next.
        const patience = look.isCareful && !usesCells && !drives ? options.reaction + skills.lag : 0;
        nextLook = now + (isChanged ? Math.max(patience, spread(options.handSpeed)) : LOOK);
        if (isChanged && random) delay = Math.max(0, Math.round(spread(options.reaction) / dt));
      }
      world.tick(recorder.next());
      timer.read(trace, trace.end - 1);
      if (timer.isFinished) return null;
      const reached = progressOf(timer.crossed, usesCells ? timer.distance / skills.width : progress.sample);
      if (reached > best) {
        best = reached;
        bestAt = now;
      } else if (now - bestAt > STUCK) return `no progress for ${STUCK} s before gate ${(timer.crossed % gates.length) + 1}`;
    }
    return `not at the finish after ${IDEAL_TIMES} times the ideal time`;
  }
}
