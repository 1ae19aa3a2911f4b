import { bodySize } from '../../../tuning/body.ts';
import type { Parameters } from '../../../tuning/catalogue/catalogue.ts';
import { isLink } from '../../../tuning/links.ts';
import type { FileValue } from '../../../tuning/schema.ts';
import { rawAt } from '../../../tuning/tuning.ts';
import { mendTo, neat, numberWords, type Rule } from './rule.ts';

/** Body widths per second of the walk proposed where there is none. */
const USUAL_WALK = 5.8;

/** True if sprinting is another pace. */
const usesSprint = ({ pace, stamina }: Parameters) => stamina.enabled || pace.sprintSpeed !== pace.walkSpeed;

/** Speeds. */
export const paceRules: readonly Rule[] = [
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
      return { path: 'pace.walkSpeed', evidence: 'walk is 0', ...mendTo(`Walk at ${numberWords(walk)}`, set) };
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
        evidence: `sprint ${numberWords(sprintSpeed)}, walk ${numberWords(walkSpeed)}`,
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
        evidence: `after a sprint it walks at ${numberWords(pace.restoredSpeed)}, before at ${numberWords(pace.walkSpeed)}`,
        ...mendTo('Restore the walk speed', { 'pace.restoredSpeed': { of: 'pace.walkSpeed' } }),
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
        evidence: `sprint ${numberWords(sprintSpeed)} does not follow walk ${numberWords(walkSpeed)}`,
        ...mendTo(`Sprint at ${numberWords(times)} × walk`, { 'pace.sprintSpeed': { of: 'pace.walkSpeed', times } }),
      };
    },
  ],
  [
    'auto-run-sprints-on',
    'risk',
    (p) =>
      p.pace.autoRun === 'sprint' && p.scheme !== 'step'
        ? { path: 'pace.autoRun', evidence: 'auto-run starts a sprint', ...mendTo('Auto-run walks', { 'pace.autoRun': 'walk' }) }
        : null,
  ],
];
