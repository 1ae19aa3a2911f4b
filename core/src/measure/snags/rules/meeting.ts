import { bodySize } from '../../../tuning/body.ts';
import type { Parameters } from '../../../tuning/catalogue/catalogue.ts';
import type { Snag } from '../snag.ts';
import { mendTo, neat, type Rule, steers, tickTravel, told } from './rule.ts';

/** Seconds of a lump beyond which the rate is felt. */
const LUMP = 0.1;

/** The half-life (s) with which the share that goes each tick is the same at every rate. */
const halfLifeOf = (share: number, hz: number) =>
  neat(Math.min(10, Math.max(0.001, Math.log(0.5) / Math.log(1 - Math.min(0.999, Math.max(0.001, share))) / hz)));

/** The way (unit) to rest by the ramp, hands off. */
function stopWay({ ramp, pace }: Parameters): number {
  if (ramp.model === 'instant') return 0;
  if (ramp.model === 'smooth') return (pace.walkSpeed * ramp.halfLife) / Math.LN2;
  return pace.walkSpeed ** 2 / (2 * ramp.decelerate);
}

/** What is wrong with a push, if anything: at least two ticks' travel, at most half the body; where no push is both, the edge had better hold. */
function pushMend(p: Parameters): Pick<Snag, 'mend'> {
  const { width, height } = bodySize(p.body);
  const [least, most] = [2 * tickTravel(p), Math.min(width, height) / 2];
  if (least * 1.05 > most) return mendTo('Hold it at the edge instead', { 'bounds.policy': 'clamp' });
  return mendTo('Push by as much as is neither', { 'bounds.push': neat(Math.min(most, least * 1.25)) });
}

/** Edges, clicks, the rate, facing and walls. */
export const meetingRules: readonly Rule[] = [
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
