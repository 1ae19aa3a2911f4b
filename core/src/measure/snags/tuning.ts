import type { Ground } from '../../ground/ground.ts';
import { bodySize } from '../../tuning/body.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { shortNumber } from '../../tuning/expression.ts';
import { isLink } from '../../tuning/links.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { rawAt, type Tuning } from '../../tuning/tuning.ts';
import type { Severity, Snag, SnagId } from './snag.ts';

/** Share of the bar that a lump may be, and seconds of a lump beyond which the rate is felt. */
const COARSE = 0.04;
const LUMP = 0.1;
/** Stick travel under which a dead zone is none. */
const LEAST_ZONE = 0.03;
/** Body widths a second of a walk that is put where there is none. */
const USUAL_WALK = 5.8;
/** Share of the ground's longest straight within which full speed should be reached. */
const ROOM = 0.25;

const told = (value: number) => shortNumber(value);
const neat = (value: number) => Number(value.toPrecision(4));

type Found = Omit<Snag, 'id' | 'severity'>;
type Rule = (p: Parameters, tuning: Tuning) => Found | null;

const mendTo = (words: string, set: Record<string, FileValue>): Pick<Snag, 'mend'> => ({ mend: { words, set } });

/** Speed (unit a tick) of the fastest gait. */
const tickTravel = ({ pace, clock }: Parameters) => Math.max(pace.walkSpeed, pace.sprintSpeed) / clock.hz;

const usesSprint = ({ pace, stamina }: Parameters) => stamina.enabled || pace.sprintSpeed !== pace.walkSpeed;

/** The half-life (s) with which the share that goes each tick is the same at every rate. */
const halfLifeOf = (share: number, hz: number) =>
  neat(Math.min(10, Math.max(0.001, Math.log(0.5) / Math.log(1 - Math.min(0.999, Math.max(0.001, share))) / hz)));

/** The way (unit) to 99 % of a speed by the ramp: V²/2a; V·h·(log₂100 − 0.99/ln 2) with a half-life. */
function riseWay({ ramp }: Parameters, speed: number): number {
  if (ramp.model === 'instant') return 0;
  if (ramp.model === 'smooth') return speed * ramp.halfLife * (Math.log2(100) - 0.99 / Math.LN2);
  return speed ** 2 / (2 * ramp.accelerate);
}

/** The way (unit) to rest by the ramp, hands off. */
function stopWay({ ramp, pace }: Parameters): number {
  if (ramp.model === 'instant') return 0;
  if (ramp.model === 'smooth') return (pace.walkSpeed * ramp.halfLife) / Math.LN2;
  return pace.walkSpeed ** 2 / (2 * ramp.decelerate);
}

const steers = ({ scheme }: Parameters) => scheme === 'steer' || scheme === 'latch';

/** What is wrong with a push, if anything: at least two ticks' travel, at most half the body; where no push is both, the edge had better hold. */
function pushMend(p: Parameters): Pick<Snag, 'mend'> {
  const { width, height } = bodySize(p.body);
  const [least, most] = [2 * tickTravel(p), Math.min(width, height) / 2];
  if (least * 1.05 > most) return mendTo('Hold it at the edge instead', { 'bounds.policy': 'clamp' });
  return mendTo('Push by as much as is neither', { 'bounds.push': neat(Math.min(most, least * 1.25)) });
}

const rules: readonly (readonly [SnagId, Severity, Rule])[] = [
  [
    'speed-zero',
    'fault',
    (p, { file }) => {
      if (p.scheme === 'step' || p.pace.walkSpeed > 0) return null;
      const walk = neat(Math.min(1e5, USUAL_WALK * Math.max(...Object.values(bodySize(p.body)))));
      // What stands by itself beside a walk of 0 goes with it.
      const set: Record<string, FileValue> = { 'pace.walkSpeed': walk };
      if (!isLink(rawAt(file, 'pace.sprintSpeed')) && p.pace.sprintSpeed <= walk)
        set['pace.sprintSpeed'] = { of: 'pace.walkSpeed', times: 1.75 };
      if (!isLink(rawAt(file, 'pace.restoredSpeed'))) set['pace.restoredSpeed'] = { of: 'pace.walkSpeed' };
      return { path: 'pace.walkSpeed', evidence: 'walk is 0', ...mendTo(`Walk at ${told(walk)}`, set) };
    },
  ],
  [
    'sprint-not-faster',
    'fault',
    (p) => {
      const { walkSpeed, sprintSpeed } = p.pace;
      if (p.scheme === 'step' || walkSpeed <= 0 || !usesSprint(p) || sprintSpeed > walkSpeed) return null;
      return {
        path: 'pace.sprintSpeed',
        evidence: `sprint ${told(sprintSpeed)}, walk ${told(walkSpeed)}`,
        ...mendTo('Sprint at 1.75 × walk', { 'pace.sprintSpeed': { of: 'pace.walkSpeed', times: 1.75 } }),
      };
    },
  ],
  [
    'sprint-unlinked',
    'fault',
    ({ pace }, { file }) => {
      if (isLink(rawAt(file, 'pace.restoredSpeed')) || pace.restoredSpeed === pace.walkSpeed) return null;
      return {
        path: 'pace.restoredSpeed',
        evidence: `after a sprint it walks at ${told(pace.restoredSpeed)}, before at ${told(pace.walkSpeed)}`,
        ...mendTo('Restore the walk itself', { 'pace.restoredSpeed': { of: 'pace.walkSpeed' } }),
      };
    },
  ],
  [
    'sprint-unlinked',
    'hint',
    (p, { file }) => {
      const { walkSpeed, sprintSpeed } = p.pace;
      // Without a sprint to speak of, or with one that is no faster, there is nothing to link by.
      if (isLink(rawAt(file, 'pace.sprintSpeed')) || !usesSprint(p) || walkSpeed <= 0 || sprintSpeed <= walkSpeed) return null;
      const times = neat(sprintSpeed / walkSpeed);
      return {
        path: 'pace.sprintSpeed',
        evidence: `sprint ${told(sprintSpeed)} does not follow walk ${told(walkSpeed)}`,
        ...mendTo(`Sprint at ${told(times)} × walk`, { 'pace.sprintSpeed': { of: 'pace.walkSpeed', times } }),
      };
    },
  ],
  [
    'sprint-on-empty',
    'fault',
    ({ stamina }) =>
      stamina.enabled && !stamina.emptyEndsSprint && stamina.drain > 0
        ? {
            path: 'stamina.emptyEndsSprint',
            evidence: `empty after ${told(stamina.max / stamina.drain)} s, and sprint goes on`,
            ...mendTo('End it when empty', { 'stamina.emptyEndsSprint': true }),
          }
        : null,
  ],
  [
    'drain-and-regain',
    'fault',
    ({ stamina }) =>
      stamina.enabled && stamina.regainWhile === 'always' && stamina.regain * stamina.regainMovingFactor > 0
        ? {
            path: 'stamina.regainWhile',
            evidence: `drains ${told(stamina.drain)} and regains ${told(stamina.regain * stamina.regainMovingFactor)} a second at once`,
            ...mendTo('Regain while not sprinting', { 'stamina.regainWhile': 'notSprinting' }),
          }
        : null,
  ],
  [
    'stamina-coarse',
    'risk',
    ({ stamina }) => {
      const lump = Math.max(stamina.drain, stamina.regain) * stamina.interval;
      if (!stamina.enabled || lump <= COARSE * stamina.max) return null;
      return {
        path: 'stamina.interval',
        evidence: `a lump of ${told(lump)} every ${told(stamina.interval)} s, ${told((100 * lump) / stamina.max)} % of the bar`,
        ...mendTo('Drain and regain continuously', { 'stamina.interval': 0 }),
      };
    },
  ],
  [
    'sprint-relock',
    'fault',
    ({ stamina }) =>
      stamina.enabled && stamina.recoverTo < Math.min(stamina.startAt, stamina.max)
        ? {
            path: 'stamina.recoverTo',
            evidence: `unlocked at ${told(stamina.recoverTo)}, begins at ${told(stamina.startAt)}`,
            ...mendTo('Unlock where it may begin', { 'stamina.recoverTo': stamina.startAt }),
          }
        : null,
  ],
  [
    'diagonal-fast',
    'fault',
    (p) =>
      !p.input.normaliseDiagonals && steers(p) && p.input.directions !== '4' && p.input.axes === 'both' && p.pace.walkSpeed > 0
        ? {
            path: 'input.normaliseDiagonals',
            evidence: `straight ${told(p.pace.walkSpeed)}, diagonal ${told(p.pace.walkSpeed * Math.SQRT2)}`,
            ...mendTo('Even diagonals', { 'input.normaliseDiagonals': true }),
          }
        : null,
  ],
  [
    'dead-zone-none',
    'risk',
    ({ input }) =>
      input.deadZone < LEAST_ZONE
        ? {
            path: 'input.deadZone',
            evidence: `stick travel over ${told(input.deadZone)} moves it`,
            ...mendTo('A dead zone of 0.15', { 'input.deadZone': 0.15, ...(input.outerZone <= 0.2 ? { 'input.outerZone': 0.95 } : {}) }),
          }
        : null,
  ],
  [
    'two-devices',
    'risk',
    ({ input }) =>
      input.devices === 'sum' || (input.devices === 'newest' && input.deadZone < LEAST_ZONE)
        ? {
            path: 'input.devices',
            evidence: input.devices === 'sum' ? 'keys and stick add up' : 'a stick that trembles at rest takes over from the keys',
            ...mendTo('The larger one counts', { 'input.devices': 'larger' }),
          }
        : null,
  ],
  [
    'clamp-centre',
    'fault',
    (p) => {
      const { bounds, body } = p;
      const { width, height } = bodySize(body);
      const { top, right, bottom, left } = bounds.inset;
      const out = Math.max(
        bounds.axes === 'y' ? 0 : Math.max(width / 2 - left, width / 2 - right),
        bounds.axes === 'x' ? 0 : Math.max(height / 2 - top, height / 2 - bottom),
      );
      if (bounds.measure !== 'centre' || (bounds.policy !== 'clamp' && bounds.policy !== 'push') || out <= 0) return null;
      return {
        path: 'bounds.measure',
        evidence: `${told(out)} of the body hang over the edge`,
        ...mendTo('Hold the whole body', { 'bounds.measure': 'body' }),
      };
    },
  ],
  [
    'push-trembles',
    'fault',
    (p) =>
      p.bounds.policy === 'push' && p.bounds.push < 2 * tickTravel(p)
        ? { path: 'bounds.push', evidence: `pushed by ${told(p.bounds.push)}, a tick goes ${told(tickTravel(p))}`, ...pushMend(p) }
        : null,
  ],
  [
    'push-pops',
    'risk',
    (p) => {
      const half = Math.min(...Object.values(bodySize(p.body))) / 2;
      if (p.bounds.policy !== 'push' || p.bounds.push <= half || p.bounds.push < 2 * tickTravel(p)) return null;
      return { path: 'bounds.push', evidence: `pushed by ${told(p.bounds.push)}, half the body is ${told(half)}`, ...pushMend(p) };
    },
  ],
  [
    'arrive-orbits',
    'fault',
    (p) =>
      p.route.enabled && p.scheme !== 'step' && p.route.arrival === 'radiusOnly' && p.route.arriveRadius < tickTravel(p) / 2
        ? {
            path: 'route.arriveRadius',
            evidence: `a radius of ${told(p.route.arriveRadius)}, a tick goes ${told(tickTravel(p))}`,
            ...mendTo('End on the point exactly', { 'route.arrival': 'exact' }),
          }
        : null,
  ],
  [
    'arrive-overshoots',
    'fault',
    (p) =>
      p.route.enabled && p.scheme !== 'step' && !p.route.brake && stopWay(p) > p.route.arriveRadius
        ? {
            path: 'route.brake',
            evidence: `stops within ${told(stopWay(p))}, the radius is ${told(p.route.arriveRadius)}`,
            ...mendTo('Brake before the point', { 'route.brake': true }),
          }
        : null,
  ],
  [
    'rate-dependent',
    'fault',
    ({ facing, clock }) =>
      facing.turn === 'perTick'
        ? {
            path: 'facing.turn',
            evidence: `turns by ${told(100 * facing.perTick)} % a tick`,
            ...mendTo('Turn with the half-life that this is now', {
              'facing.turn': 'smooth',
              'facing.halfLife': halfLifeOf(facing.perTick, clock.hz),
            }),
          }
        : null,
  ],
  [
    'rate-dependent',
    'fault',
    ({ camera, clock }) =>
      camera.follow === 'perTick'
        ? {
            path: 'camera.follow',
            evidence: `the view catches up ${told(100 * camera.perTick)} % a tick`,
            ...mendTo('Follow with the half-life that this is now', {
              'camera.follow': 'smooth',
              'camera.halfLife': halfLifeOf(camera.perTick, clock.hz),
            }),
          }
        : null,
  ],
  [
    'rate-dependent',
    'fault',
    ({ clock }) =>
      clock.stepping === 'perFrame'
        ? { path: 'clock.stepping', evidence: 'a tick is as long as its frame', ...mendTo('Fixed ticks', { 'clock.stepping': 'fixed' }) }
        : null,
  ],
  [
    'rate-dependent',
    'risk',
    ({ stamina }) =>
      stamina.enabled && stamina.interval > LUMP && Math.max(stamina.drain, stamina.regain) > 0
        ? {
            path: 'stamina.interval',
            evidence: `what happens within ${told(stamina.interval)} s counts at its end`,
            ...mendTo('Drain and regain continuously', { 'stamina.interval': 0 }),
          }
        : null,
  ],
  [
    'auto-run-sprints-on',
    'risk',
    (p) =>
      p.pace.autoRun === 'sprint' && p.scheme !== 'step'
        ? { path: 'pace.autoRun', evidence: 'auto-run begins a sprint', ...mendTo('Auto-run walks', { 'pace.autoRun': 'walk' }) }
        : null,
  ],
  [
    'plant-resumes',
    'risk',
    ({ route }) =>
      route.enabled && route.afterPlant === 'resume'
        ? {
            path: 'route.afterPlant',
            evidence: 'the destination is kept while planted',
            ...mendTo('Forget it', { 'route.afterPlant': 'forget' }),
          }
        : null,
  ],
  [
    'facing-flickers',
    'risk',
    (p) =>
      p.facing.stickiness === 0 &&
      p.facing.directions !== 'free' &&
      p.facing.from !== 'pointer' &&
      steers(p) &&
      p.input.directions === 'free'
        ? {
            path: 'facing.stickiness',
            evidence: `${p.facing.directions} ways with hard borders`,
            ...mendTo('Hold each way a little longer', { 'facing.stickiness': p.facing.directions === '16' ? 5 : 10 }),
          }
        : null,
  ],
  [
    'facing-lost',
    'risk',
    ({ facing }) =>
      facing.whenStill === 'start'
        ? {
            path: 'facing.whenStill',
            evidence: `standing, it faces ${told(facing.start)}° again`,
            ...mendTo('Keep the last facing', { 'facing.whenStill': 'keep' }),
          }
        : null,
  ],
  [
    'facing-wrong-way',
    'fault',
    ({ facing }) =>
      facing.flip !== 'none'
        ? { path: 'facing.flip', evidence: `the sign of ${facing.flip} is turned`, ...mendTo('Right way round', { 'facing.flip': 'none' }) }
        : null,
  ],
  [
    'wall-not-solid',
    'fault',
    ({ contact }) =>
      contact.response === 'none'
        ? {
            path: 'contact.response',
            evidence: 'no wall holds it',
            ...mendTo('Slide along walls', { 'contact.response': 'slide' }),
          }
        : null,
  ],
  [
    'wall-not-solid',
    'fault',
    (p) =>
      p.contact.response !== 'none' && !p.contact.swept && p.scheme !== 'step' && tickTravel(p) > 0
        ? {
            path: 'contact.swept',
            evidence: `a tick goes ${told(tickTravel(p))}: thinner walls are passed`,
            ...mendTo('Follow the whole way of a tick', { 'contact.swept': true }),
          }
        : null,
  ],
  [
    'seams-felt',
    'fault',
    ({ contact }) =>
      contact.seams
        ? {
            path: 'contact.seams',
            evidence: 'the joints between solid cells stand out',
            ...mendTo('Merge solid cells', { 'contact.seams': false }),
          }
        : null,
  ],
];

/** The snags that a tuning has by its numbers alone; with a ground also whether it has room for them. */
export function tuningSnags(tuning: Tuning, ground?: Ground): Snag[] {
  const { parameters } = tuning;
  const found = rules.flatMap(([id, severity, rule]) => {
    const snag = rule(parameters, tuning);
    return snag ? [{ id, severity, ...snag }] : [];
  });
  const room = ground && neverAtSpeed(parameters, ground);
  return room ? [...found, room] : found;
}

/** Full walking speed that needs more room than the ground's longest straight. */
function neverAtSpeed(p: Parameters, ground: Ground): Snag | null {
  const longest = Math.max(ground.size.width, ground.size.height);
  const need = riseWay(p, p.pace.walkSpeed);
  if (p.scheme === 'step' || need <= longest) return null;
  const evidence = `full speed needs ${told(need)} ${ground.unit}, the longest straight has ${told(longest)}`;
  const mend =
    p.ramp.model === 'smooth'
      ? mendTo('Up to speed within a quarter of it', { 'ramp.halfLife': neat(Math.max(0.001, (p.ramp.halfLife * ROOM * longest) / need)) })
      : mendTo('Up to speed within a quarter of it', {
          'ramp.accelerate': neat(Math.min(1e8, (p.ramp.accelerate * need) / (ROOM * longest))),
        });
  return {
    id: 'never-at-speed',
    severity: 'risk',
    path: p.ramp.model === 'smooth' ? 'ramp.halfLife' : 'ramp.accelerate',
    evidence,
    ...mend,
  };
}
