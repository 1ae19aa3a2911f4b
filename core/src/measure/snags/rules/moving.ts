import { bodySize } from '../../../tuning/body.ts';
import type { Parameters } from '../../../tuning/catalogue/catalogue.ts';
import { isLink } from '../../../tuning/links.ts';
import type { FileValue } from '../../../tuning/schema.ts';
import { rawAt } from '../../../tuning/tuning.ts';
import { mendTo, neat, type Rule, steers, told } from './rule.ts';

/** Share of the bar that a lump may be. */
const COARSE = 0.04;
/** Stick travel under which a dead zone is none. */
const LEAST_ZONE = 0.03;
/** Body widths a second of a walk that is put where there is none. */
const USUAL_WALK = 5.8;

const usesSprint = ({ pace, stamina }: Parameters) => stamina.enabled || pace.sprintSpeed !== pace.walkSpeed;

/** Speeds, stamina and hands. */
export const movingRules: readonly Rule[] = [
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
];
