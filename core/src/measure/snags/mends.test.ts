import { describe, expect, it } from 'vitest';
import type { Ground } from '../../ground/ground.ts';
import { rerun } from '../../replay/rerun.ts';
import { type TapeEvent, tapeOf } from '../../tape/tape.ts';
import { campaign, seeds } from '../../testing/campaign.ts';
import { openGround } from '../../testing/drive.ts';
import { sequence } from '../../testing/sequence.ts';
import { oneOf, sound, tuningWith } from '../../testing/soundTuning.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { resolveTuning, type Tuning, withValue } from '../../tuning/tuning.ts';
import { bySeverity, type Snag } from './snag.ts';
import { traceSnags } from './trace.ts';
import { tuningSnags } from './tuning.ts';

/** Values that make snags, alone and with each other. */
const faulty: readonly ((next: () => number) => Record<string, FileValue>)[] = [
  () => ({ 'pace.walkSpeed': 0 }),
  (next) => ({ 'pace.sprintSpeed': 10 + next() * 100 }),
  () => ({ 'stamina.enabled': true, 'stamina.emptyEndsSprint': false }),
  () => ({ 'stamina.enabled': true, 'stamina.regainWhile': 'always' }),
  (next) => ({ 'stamina.enabled': true, 'stamina.interval': next() }),
  () => ({ 'stamina.enabled': true, 'stamina.startAt': 40, 'stamina.recoverTo': 10 }),
  () => ({ 'input.normaliseDiagonals': false }),
  () => ({ 'input.deadZone': 0 }),
  () => ({ 'bounds.policy': 'clamp', 'bounds.measure': 'centre' }),
  (next) => ({ 'bounds.policy': 'push', 'bounds.push': next() * 40 }),
  (next) => ({ 'route.enabled': true, 'route.arrival': 'radiusOnly', 'route.arriveRadius': next() * 6, 'route.brake': next() < 0.5 }),
  () => ({ 'route.enabled': true, 'route.planner': 'straight' }),
  () => ({ 'route.enabled': true, 'route.afterPlant': 'resume' }),
  () => ({ 'facing.turn': 'perTick' }),
  () => ({ 'camera.follow': 'perTick' }),
  () => ({ 'clock.stepping': 'perFrame' }),
  () => ({ 'facing.stickiness': 0 }),
  () => ({ 'facing.whenStill': 'start' }),
  () => ({ 'contact.response': 'none' }),
  () => ({ 'contact.swept': false }),
  () => ({ 'contact.seams': true }),
  () => ({ 'pace.autoRun': 'sprint', 'pace.sprintKey': 'toggle' }),
];

const driven = ({ parameters }: Tuning, ticks: number, events: TapeEvent[], ground: Ground) =>
  rerun(tapeOf({ name: 'Hands', hz: parameters.clock.hz, ticks, events }), parameters, ground);

const mended = (tuning: Tuning, { mend }: Snag): Tuning => {
  const file = Object.entries(mend?.set ?? {}).reduce((changed, [path, value]) => withValue(changed, path, value), tuning.file);
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
};

describe('mends', () => {
  it('each remove their snag and add none, whatever else is wrong', () => {
    const grounds = [undefined, openGround({ size: { width: 640, height: 384 } }), openGround({ size: { width: 9000, height: 9000 } })];
    const wanted = campaign(200, 2000);
    let mends = 0;
    for (let seed = 1; mends < wanted; seed++) {
      const next = sequence(seed * 104_729);
      const planted = Object.assign({}, ...faulty.filter(() => next() < 0.12).map((plant) => plant(next))) as Record<string, FileValue>;
      const tuning = sound(seed, planted);
      const ground = oneOf(next, ...grounds);
      const before = tuningSnags(tuning, ground);
      for (const snag of before.filter(({ mend }) => mend)) {
        mends++;
        const key = ({ id, path }: Snag) => `${id} ${path}`;
        const after = tuningSnags(mended(tuning, snag), ground).map(key);
        const numberWords = `seed ${seed}, ${snag.id}: ${JSON.stringify(snag.mend)} of ${JSON.stringify(planted)}`;
        expect(after, numberWords).not.toContain(key(snag));
        expect(
          after.filter((one) => !before.map(key).includes(one)),
          numberWords,
        ).toEqual([]);
      }
    }
  });
});

describe('sound tunings', () => {
  it('show no fault, however slowly they face, planted or not', () => {
    for (const seed of seeds(60, 2000, [901, 964])) {
      const next = sequence(seed * 15_485_867);
      const tuning = sound(seed, {
        scheme: 'steer',
        'route.enabled': true,
        'facing.turn': oneOf(next, 'instant', 'rate', 'smooth'),
        'facing.rate': 20 + next() * 700,
        'facing.halfLife': 0.02 + next(),
        'bounds.policy': 'clamp',
        'bounds.inset.top': -next() * 60,
        'bounds.inset.right': -next() * 60,
        'ramp.decelerate': 100 + next() * 1000,
      });
      const { hz } = tuning.parameters.clock;
      const down = new Set<string>();
      const events: TapeEvent[] = [{ at: 0, point: [next() * 800, next() * 600] }];
      for (let at = 3; at < 8 * hz; at += Math.ceil(next() * hz)) {
        const control = oneOf(next, 'right', 'left', 'up', 'down', 'plant', 'pointer');
        events.push({ at, [down.has(control) ? 'release' : 'press']: control } as TapeEvent);
        if (!down.delete(control)) down.add(control);
      }
      const ground = openGround({ size: { width: 800, height: 600 }, start: { x: 400, y: 300 } });
      const { trace } = driven(tuning, 8 * hz, events, ground);
      const faults = bySeverity(traceSnags({ trace, parameters: tuning.parameters, ground })).filter(
        ({ severity }) => severity === 'fault',
      );
      expect(
        faults.map(({ id, evidence, time }) => `${id}: ${evidence} at ${time}`),
        `seed ${seed}`,
      ).toEqual([]);
    }
  });

  it('off the screen by a free axis are held by the mend', () => {
    const values = { 'bounds.policy': 'clamp', 'bounds.axes': 'x', 'bounds.measure': 'centre' } as const;
    const ground = openGround({ size: { width: 400, height: 300 }, start: { x: 200, y: 150 } });
    const look = (tuning: Tuning) => {
      const { trace } = driven(tuning, 240, [{ at: 0, press: 'down' }], ground);
      return traceSnags({ trace, parameters: tuning.parameters, ground }).filter(({ id }) => id === 'off-screen');
    };
    const tuning = tuningWith(values);
    const [snag] = look(tuning);
    expect(snag?.mend?.set).toEqual({ 'bounds.axes': 'both', 'bounds.measure': 'body' });
    expect(look(mended(tuning, snag as Snag))).toEqual([]);
  });
});
