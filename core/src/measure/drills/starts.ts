import { DEGREE } from '../../math/functions.ts';
import { AUTO_RUN_OFF } from '../../motion/events.ts';
import type { Trace } from '../../motion/trace.ts';
import { meetingIn } from '../crossing.ts';
import { traceMetrics } from '../metrics.ts';
import { type SpeedLaw, speedLaw } from '../speedLaw.ts';
import type { Drill } from './drill.ts';
import { cannotMove, openGround } from './layout.ts';
import { distanceBetween, reaches, rowFrom } from './read.ts';
import { Script, TAP } from './script.ts';

/** Seconds of rest before the first input, and of rest at the end. */
const REST = 0.1;
const AFTER = 0.4;

/**
 * From rest to full walking speed. riseTime and riseDistance: from the tick that asks for it to 99 % of the gait's speed, inside the tick
 * (linear ramp: 0.99·V/a; V²/2a·0.99²). inputLatency: ticks from the press to the first motion, both counted.
 */
export const standingStart: Drill = {
  name: 'standing-start',
  title: 'Standing start',
  words: 'Walks straight ahead from rest to full speed.',
  main: 'riseTime',
  drawing: 'speed',
  gives: ['riseTime', 'riseDistance', 'inputLatency'],
  unless: cannotMove,
  lay: ({ parameters, rise }) => {
    const script = new Script(parameters);
    return [{ ground: openGround(), tape: script.press(REST, script.ahead).tape('Standing start', REST + rise + AFTER) }];
  },
  measure: ([ran], { parameters }) => {
    const { riseTime, riseDistance, inputLatency } = traceMetrics((ran as NonNullable<typeof ran>).trace, parameters);
    return { riseTime, riseDistance, inputLatency };
  },
};

/**
 * Full speed, then hands off. stopTime and stopDistance: to rest if a steady rate reaches it, else to the last hundredth of the speed (linear: V/d
 * and V²/2d; half-life h: 6.644·h).
 */
export const hardStop: Drill = {
  name: 'hard-stop',
  title: 'Hard stop',
  words: 'Walks at full speed, then releases all input.',
  main: 'stopDistance',
  drawing: 'speed',
  gives: ['stopTime', 'stopDistance'],
  unless: cannotMove,
  lay: ({ parameters, rise, walk }) => {
    const script = new Script(parameters);
    const off = REST + rise + AFTER;
    const { model, decelerate, halfLife } = parameters.ramp;
    const stop = model === 'smooth' ? 8 * halfLife : walk / decelerate;
    script.press(REST, script.ahead).stop(off, script.ahead);
    return [{ ground: openGround(), tape: script.tape('Hard stop', off + Math.min(30, stop * 1.5) + AFTER) }];
  },
  measure: ([ran], { parameters }) => {
    const { stopTime, stopDistance } = traceMetrics((ran as NonNullable<typeof ran>).trace, parameters);
    return { stopTime, stopDistance };
  },
};

/** How far a body still goes ahead in the tick in which its speed back, from `v0` < 0 to `v1`, passes zero, unit. */
function turnsWithin(law: SpeedLaw, v0: number, v1: number, aim: number, dt: number): number {
  const { share, distance } = meetingIn({ before: null, v0, v1, limit: aim, dt }, 0, law);
  return distance === null ? (-v0 * share * dt) / 2 : -distance;
}

/**
 * The fraction of a row's tick after which the speed back crosses a goal while the heading turns in that direction at a rate (radians/s): v(t)·cos
 * φ(t), v by its law where it follows that, else on a line.
 */
function bendsWithin(
  trace: Trace,
  row: number,
  back: (row: number) => number,
  goal: number,
  limit: number,
  law: SpeedLaw,
  rate: number,
): number {
  const [v0, v1] = [trace.at('speed', row - 1), trace.at('speed', row)];
  const dt = trace.at('time', row) - trace.at('time', row - 1);
  // Braked to a stand, the body has set out straight back.
  const stopped = back(row - 1) < 0 ? law.meets(-v0, limit, goal, dt) : null;
  if (stopped && Math.abs(law.after(-v0, limit, dt) - v1) <= 1e-6 * limit) return stopped.seconds / dt;
  const off = v0 > 0 ? Math.acos(Math.max(-1, Math.min(1, back(row - 1) / v0))) : 0;
  const isLawful = Math.abs(law.after(v0, limit, dt) - v1) <= 1e-6 * limit;
  const at = (t: number) => (isLawful ? law.after(v0, limit, t) : v0 + ((v1 - v0) * t) / dt) * Math.cos(Math.max(0, off - rate * t));
  let [low, high] = [0, dt];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2;
    if (at(middle) < goal) low = middle;
    else high = middle;
  }
  return high / dt;
}

/** Halvings that find a moment inside a tick. */
const HALVINGS = 40;

/**
 * Full speed, then the opposite direction. reverseTime: from the tick that requests it to 99 % of the speed aimed at. reverseOvershoot: the distance
 * still covered ahead (linear with vector turning: V²/2·brake).
 */
export const turnRound: Drill = {
  name: 'turn-round',
  title: 'Turn-round',
  words: 'Walks at full speed, then in the opposite direction.',
  main: 'reverseOvershoot',
  drawing: 'across',
  gives: ['reverseTime', 'reverseOvershoot'],
  lacks: ({ scheme, pace }) => (scheme === 'turn' && pace.backwardFactor === 0 ? { reverseTime: 'it does not go backwards' } : {}),
  unless: cannotMove,
  lay: ({ parameters, rise, walk }) => {
    const script = new Script(parameters);
    const turn = REST + rise + AFTER;
    const { model, brake, halfLife, turning, turnRate } = parameters.ramp;
    const back = (model === 'smooth' ? 8 * halfLife : walk / brake) + (turning === 'heading' ? 180 / turnRate : 0);
    script.press(REST, script.ahead).release(turn, script.ahead).press(turn, script.back);
    return [{ ground: openGround(), tape: script.tape('Turn-round', turn + Math.min(30, 1.5 * back + 1.2 * rise) + AFTER) }];
  },
  measure: ([ran], { rise, hz, parameters: { ramp, clock, scheme } }) => {
    const { trace } = ran as NonNullable<typeof ran>;
    const begun = Math.round((REST + rise + AFTER) * hz) / hz;
    const row = rowFrom(trace, begun);
    const [x, y] = [trace.at('x', row), trace.at('y', row)];
    const [vx, vy] = [trace.at('vx', row), trace.at('vy', row)];
    const speed = Math.sqrt(vx * vx + vy * vy);
    if (speed === 0) return {};
    const back = (at: number) => -(trace.at('vx', at) * vx + trace.at('vy', at) * vy) / speed;
    const limit = trace.at('target', trace.end - 1);
    const law = speedLaw({ ramp, clock });
    // A body that stops at once can set out in the opposite direction at once.
    const turns = ramp.turning === 'heading' && ramp.model !== 'instant' && scheme !== 'turn';
    const within = turns ? (at: number) => bendsWithin(trace, at, back, 0.99 * limit, limit, law, ramp.turnRate * DEGREE) : undefined;
    const time = limit > 0 ? reaches(trace, row, 0.99 * limit, back, { limit, law, within }) : null;
    const ahead = (at: number) => ((trace.at('x', at) - x) * vx + (trace.at('y', at) - y) * vy) / speed;
    let over = 0;
    for (let at = row; at < trace.end; at++) {
      over = Math.max(over, ahead(at));
      // Semi-implicit ticks go straight from one place to the next; the others turn inside a tick.
      if (at > row && back(at - 1) < 0 && back(at) >= 0 && clock.integration !== 'semiImplicit')
        over = Math.max(
          over,
          ahead(at - 1) + turnsWithin(law, back(at - 1), back(at), limit, trace.at('time', at) - trace.at('time', at - 1)),
        );
    }
    return { reverseTime: time === null ? undefined : time - begun, reverseOvershoot: over };
  },
};

/**
 * Full speed, then at right angles to it. turn90Radius: the distance still covered along the old direction until the motion has turned by 90°; with
 * turn and drive, the length of the quarter turn by π/2, which is the radius of an arc.
 */
export const rightAngle: Drill = {
  name: 'right-angle-turn',
  title: 'Right-angle turn',
  words: 'Walks at full speed, then at right angles to it.',
  main: 'turn90Radius',
  drawing: 'path',
  gives: ['turn90Radius'],
  unless: cannotMove,
  lay: ({ parameters, rise }) => {
    const script = new Script(parameters);
    const turn = REST + rise + AFTER;
    script.press(REST, script.ahead);
    // A body that turns and goes steers while it drives on.
    if (parameters.scheme === 'turn') script.press(turn, 'right');
    else script.release(turn, script.ahead).press(turn, 'down');
    return [{ ground: openGround(), tape: script.tape('Right-angle turn', turn + 2 * rise + 1.2) }];
  },
  measure: ([ran], { rise, hz, parameters: { scheme } }) => {
    const { trace } = ran as NonNullable<typeof ran>;
    const begun = Math.round((REST + rise + AFTER) * hz) / hz;
    const row = rowFrom(trace, begun);
    const [vx, vy] = [trace.at('vx', row), trace.at('vy', row)];
    const speed = Math.sqrt(vx * vx + vy * vy);
    if (speed === 0) return {};
    const along = (at: number) => (trace.at('vx', at) * vx + trace.at('vy', at) * vy) / speed;
    const time = reaches(trace, row, -0.01 * speed, (at) => -along(at));
    if (time === null) return {};
    if (scheme === 'turn') {
      const quarter = reaches(trace, row, 0, (at) => -along(at)) ?? time;
      return { turn90Radius: distanceBetween(trace, begun, quarter) / (Math.PI / 2) };
    }
    const last = trace.rowAt(time);
    const advance = ((trace.at('x', last) - trace.at('x', row)) * vx + (trace.at('y', last) - trace.at('y', row)) * vy) / speed;
    return { turn90Radius: Math.max(0, advance) };
  },
};

/** Seconds for which auto-run is left alone, and for which it is observed after the opposite press. */
const LEFT_ALONE = 1;

/** Auto-run, left alone, then ended by the opposite direction. autoRunEnds: from that press to the end of auto-run. */
export const autoRun: Drill = {
  name: 'auto-run',
  title: 'Auto-run and back',
  words: 'Auto-runs for a second, then steers in the opposite direction.',
  main: 'autoRunEnds',
  drawing: 'speed',
  gives: ['autoRunEnds'],
  unless: (parameters) => cannotMove(parameters) ?? (parameters.pace.autoRun === 'off' ? 'needs auto-run' : null),
  lay: ({ parameters }) => {
    const script = new Script(parameters);
    script.press(REST, 'autoRun').release(REST + TAP, 'autoRun');
    script.press(REST + LEFT_ALONE, script.back).stop(REST + LEFT_ALONE + 0.3, script.back);
    return [{ ground: openGround(), tape: script.tape('Auto-run', REST + LEFT_ALONE + 1) }];
  },
  measure: ([ran], { hz }) => {
    const { trace } = ran as NonNullable<typeof ran>;
    const pressed = Math.round((REST + LEFT_ALONE) * hz) / hz;
    for (let row = rowFrom(trace, pressed) + 1; row < trace.end; row++)
      if (trace.at('events', row) & AUTO_RUN_OFF) return { autoRunEnds: trace.at('time', row - 1) - pressed };
    return {};
  },
};

/** Seconds of a whole drift that is watched. */
const WATCHED = 2;
/** A stick that nobody touches, worn: it rests off its middle, and trembles. */
const WORN = [
  [0.1, 0.04],
  [0.08, 0.05],
  [0.11, 0.03],
] as const;

/** A worn stick at rest. deadZoneDrift: the distance that the body drifts in two seconds. */
export const drift: Drill = {
  name: 'dead-zone-drift',
  title: 'Dead-zone drift',
  words: 'Leaves a worn stick alone; it rests a tenth off its middle.',
  main: 'deadZoneDrift',
  drawing: 'path',
  gives: ['deadZoneDrift'],
  unless: cannotMove,
  lay: ({ parameters }) => {
    const script = new Script(parameters);
    for (let i = 0; i * 0.25 < WATCHED; i++) script.say(i * 0.25, { stick: [...(WORN[i % WORN.length] as (typeof WORN)[number])] });
    return [{ ground: openGround(), tape: script.tape('Dead-zone drift', WATCHED) }];
  },
  measure: ([ran]) => ({ deadZoneDrift: distanceBetween((ran as NonNullable<typeof ran>).trace, 0, WATCHED + 1) }),
};
