import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { openGround } from '../../testing/drive.ts';
import { sound, tuningWith } from '../../testing/soundTuning.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { parseTuning, resolveTuning, withValue } from '../../tuning/tuning.ts';
import { bySeverity, type Snag, type SnagId, snagWords } from './snag.ts';
import { tuningSnags } from './tuning.ts';

const ids = (snags: readonly Snag[]) => snags.map(({ id, path = '' }) => `${id} ${path}`);

describe('snags of a tuning', () => {
  it('are none in 500 random sound ones', () => {
    for (let seed = 1; seed <= 500; seed++) expect(ids(tuningSnags(sound(seed))), `seed ${seed}`).toEqual([]);
  });

  const steer = { scheme: 'steer', 'input.directions': 'free' };
  const stamina = { 'stamina.enabled': true, 'stamina.drain': 20, 'stamina.regain': 15, 'stamina.regainMovingFactor': 0.5 };
  const clicks = { scheme: 'steer', 'route.enabled': true };
  const plantings: [SnagId, string, Record<string, FileValue>][] = [
    ['speed-zero', 'pace.walkSpeed', { ...steer, 'pace.walkSpeed': 0 }],
    ['sprint-not-faster', 'pace.sprintSpeed', { ...steer, 'pace.sprintSpeed': { of: 'pace.walkSpeed', times: 0.9 } }],
    ['sprint-unlinked', 'pace.sprintSpeed', { ...steer, 'pace.sprintSpeed': 900 }],
    ['sprint-unlinked', 'pace.restoredSpeed', { ...steer, 'pace.restoredSpeed': 7 }],
    ['sprint-on-empty', 'stamina.emptyEndsSprint', { ...steer, ...stamina, 'stamina.emptyEndsSprint': false }],
    ['drain-and-regain', 'stamina.regainWhile', { ...steer, ...stamina, 'stamina.regainWhile': 'always' }],
    ['stamina-coarse', 'stamina.interval', { ...steer, ...stamina, 'stamina.drain': 60, 'stamina.interval': 0.09 }],
    ['sprint-relock', 'stamina.recoverTo', { ...steer, ...stamina, 'stamina.startAt': 30, 'stamina.recoverTo': 10 }],
    ['diagonal-fast', 'input.normaliseDiagonals', { ...steer, 'input.normaliseDiagonals': false }],
    ['dead-zone-none', 'input.deadZone', { ...steer, 'input.deadZone': 0 }],
    ['two-devices', 'input.devices', { ...steer, 'input.devices': 'sum' }],
    ['clamp-centre', 'bounds.measure', { ...steer, 'bounds.policy': 'clamp', 'bounds.measure': 'centre' }],
    ['push-trembles', 'bounds.push', { ...steer, 'bounds.policy': 'push', 'bounds.push': 0.1 }],
    ['push-pops', 'bounds.push', { ...steer, 'bounds.policy': 'push', 'bounds.push': 400 }],
    ['arrive-orbits', 'route.arriveRadius', { ...clicks, 'route.arrival': 'radiusOnly', 'route.arriveRadius': 0.05 }],
    ['arrive-overshoots', 'route.brake', { ...clicks, 'ramp.model': 'linear', 'route.brake': false, 'route.arriveRadius': 0.05 }],
    ['rate-dependent', 'facing.turn', { ...steer, 'facing.turn': 'perTick' }],
    ['rate-dependent', 'camera.follow', { ...steer, 'camera.follow': 'perTick' }],
    ['rate-dependent', 'clock.stepping', { ...steer, 'clock.stepping': 'perFrame' }],
    ['rate-dependent', 'stamina.interval', { ...steer, ...stamina, 'stamina.drain': 5, 'stamina.regain': 5, 'stamina.interval': 0.5 }],
    ['auto-run-sprints-on', 'pace.autoRun', { ...steer, 'pace.autoRun': 'sprint' }],
    ['plant-resumes', 'route.afterPlant', { ...clicks, 'route.afterPlant': 'resume' }],
    ['facing-flickers', 'facing.stickiness', { ...steer, 'facing.directions': '8', 'facing.stickiness': 0 }],
    ['facing-lost', 'facing.whenStill', { ...steer, 'facing.whenStill': 'start' }],
    ['facing-wrong-way', 'facing.flip', { ...steer, 'facing.flip': 'x' }],
    ['wall-not-solid', 'contact.response', { ...steer, 'contact.response': 'none' }],
    ['wall-not-solid', 'contact.swept', { ...steer, 'contact.swept': false }],
    ['seams-felt', 'contact.seams', { ...steer, 'contact.seams': true }],
  ];
  it.each(plantings)('%s of %s is found where it is planted, alone, and its mend cures it and makes no other', (id, path, planted) => {
    for (let seed = 1; seed <= 40; seed++) {
      const tuning = sound(seed, planted);
      const found = tuningSnags(tuning);
      const snag = found.find((one) => one.id === id && one.path === path);
      expect(snag, `seed ${seed}: ${ids(found)}`).toBeDefined();
      expect(ids(found), `seed ${seed}`).toEqual([`${id} ${path}`]);
      expect(snag?.evidence).not.toBe('');
      const file = Object.entries(snag?.mend?.set ?? {}).reduce((changed, [at, value]) => withValue(changed, at, value), tuning.file);
      const mended = resolveTuning(file);
      if (!mended.ok) throw new Error(JSON.stringify(mended.faults));
      expect(ids(tuningSnags(mended.value)), `seed ${seed}, mended`).toEqual([]);
    }
  });

  it('are all found in the first draft: at least a dozen, each mended by its own deed, until none is left', () => {
    const read = parseTuning(readFileSync(new URL('../../../../demo/first-draft.tuning.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error('no first draft');
    let tuning = read.value;
    expect(new Set(tuningSnags(tuning).map(({ id }) => id)).size).toBeGreaterThanOrEqual(12);
    for (let left = tuningSnags(tuning); left.length > 0; ) {
      const [snag] = bySeverity(left);
      const file = Object.entries(snag?.mend?.set ?? {}).reduce((changed, [at, value]) => withValue(changed, at, value), tuning.file);
      const mended = resolveTuning(file);
      if (!mended.ok) throw new Error(JSON.stringify(mended.faults));
      tuning = mended.value;
      const now = tuningSnags(tuning);
      expect(now.length, `after ${snag?.id}`).toBeLessThan(left.length);
      left = now;
    }
  });

  it('report that full speed needs more room than there is', () => {
    const slow = tuningWith({ 'pace.walkSpeed': 400, 'ramp.accelerate': 60 });
    const small = openGround({ size: { width: 640, height: 384 } });
    const [snag] = tuningSnags(slow, small);
    expect(snag?.id).toBe('never-at-speed');
    const mended = tuningWith({ 'pace.walkSpeed': 400, ...snag?.mend?.set });
    expect(tuningSnags(mended, small)).toEqual([]);
    expect(tuningSnags(slow, openGround({ size: { width: 4000, height: 384 } }))).toEqual([]);
  });

  it('take less than 5 ms', () => {
    const tuning = sound(7);
    tuningSnags(tuning);
    const begun = performance.now();
    for (let i = 0; i < 100; i++) tuningSnags(tuning);
    expect((performance.now() - begun) / 100).toBeLessThan(5);
  });
});

it('every id has a name, and says why it matters', () => {
  for (const [id, [name, why]] of Object.entries(snagWords)) {
    expect(name.length, id).toBeGreaterThan(3);
    expect(why.length, id).toBeGreaterThan(20);
  }
});
