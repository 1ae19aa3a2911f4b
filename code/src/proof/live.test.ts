import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { type FileValue, newGround, numberAt, Replay, resolveTuning, type Tuning, World, withValue } from '@zygopod/core';
import { transformSync } from 'esbuild';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { seeds } from '../../../core/src/testing/campaign.ts';
import { sequence } from '../../../core/src/testing/sequence.ts';
import { CannotHold } from '../fold/values.ts';
import { compared } from '../golden/modelRun.ts';
import { TypeScript } from '../languages/ts/printer.ts';
import { motionOf } from '../motion.ts';
import { proveOn } from '../testing/proof.ts';
import { provable } from '../testing/proofs.ts';
import { demo, randomTape, tuned } from '../testing/random.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-live-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** Numbers that any such tuning uses as they are, with values to change them to. */
const numbers: Readonly<Record<string, (next: () => number) => number>> = {
  'pace.walkSpeed': (next) => 20 + next() * 300,
  'pace.sprintSpeed': (next) => 100 + next() * 400,
  'pace.restoredSpeed': (next) => 50 + next() * 200,
  'ramp.accelerate': (next) => 100 + next() * 2000,
  'ramp.decelerate': (next) => 100 + next() * 2000,
  'ramp.brake': (next) => 100 + next() * 4000,
  'ramp.ease': (next) => 100 + next() * 2000,
  'stamina.drain': (next) => 5 + next() * 90,
  'stamina.regain': (next) => 5 + next() * 60,
  'stamina.regainDelay': (next) => next() * 2,
};

const resolved = (tuning: Tuning, values: Readonly<Record<string, FileValue>>): Tuning => {
  const read = resolveTuning(Object.entries(values).reduce((file, [path, value]) => withValue(file, path, value), tuning.file));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
};

/** A tuning, some of its numbers, and other values for them. */
function varied(seed: number): { tuning: Tuning; live: string[]; other: Tuning } {
  const next = sequence(seed * 131);
  const tuning = tuned({
    'stamina.enabled': true,
    'ramp.model': 'linear',
    'clock.integration': next() < 0.5 ? 'semiImplicit' : 'trapezoid',
  });
  const live = Object.keys(numbers).filter((path) => path === 'pace.walkSpeed' || next() < 0.5);
  const other = resolved(tuning, Object.fromEntries(live.map((path) => [path, (numbers[path] as (next: () => number) => number)(next)])));
  return { tuning, live, other };
}

describe.each(provable)('motion with live numbers in %s', (language) => {
  it('is the model’s at other values of them, bit for bit; what is linked to one follows it', () => {
    for (const seed of seeds(2, 24)) {
      const { tuning, live, other } = varied(seed);
      const tapes = Array.from({ length: 12 }, (_, i) => randomTape(seed * 37 + i * 1009, 300));
      expect(proveOn(language, tuning, tapes, folder, { model: other, live }), `seed ${seed}`).toBeNull();
    }
  });
});

describe('live numbers', () => {
  it('can change in the middle of a drive, as in the model', async () => {
    for (const seed of seeds(4, 60)) {
      const { tuning, live } = varied(seed);
      const next = sequence(seed * 17);
      const motion = motionOf(tuning, { live });
      const path = join(folder, `motion${seed}.mjs`);
      writeFileSync(path, transformSync(new TypeScript().file(motion), { loader: 'ts' }).code);
      const code = (await import(/* @vite-ignore */ pathToFileURL(path).href)) as {
        motionStart(): Record<string, number>;
        motionFree(body: object): void;
        motionTick(body: object, hands: object, contact: (body: object) => void): void;
      };
      const body = code.motionStart();
      const open = { ...newGround('Open'), size: { width: 1e6, height: 1e6 }, start: { x: 0, y: 0 } };
      const free = (one: Tuning) => ({ ...one.parameters, bounds: { ...one.parameters.bounds, policy: 'none' as const } });
      const world = new World(free(tuning), open, 10);
      const replay = new Replay(randomTape(seed, 600), 60);
      let now = tuning;
      for (let tick = 0; tick < 600; tick++) {
        if (tick % 40 === 39) {
          const changed = live.filter(() => next() < 0.5);
          now = resolved(now, Object.fromEntries(changed.map((one) => [one, (numbers[one] as (next: () => number) => number)(next)])));
          world.setParameters(free(now));
          for (const { path: of, field } of motion.live) body[field] = numberAt(now.parameters, of);
        }
        const hands = replay.next();
        code.motionTick(body, { ...hands }, code.motionFree);
        world.tick(hands);
        for (const field of compared)
          if (field !== 'happened')
            expect(Object.is((body[field] as number) + 0, world.body[field] + 0), `seed ${seed}, tick ${tick}: ${field}`).toBe(true);
      }
    }
  });

  it('are refused where the motion uses what is computed from them, or doesn’t use them', () => {
    const refusal = (path: string, tuning = demo('carrier-day-boots')) => {
      try {
        motionOf(tuning, { live: [path] });
        return null;
      } catch (error) {
        return error instanceof CannotHold ? error.message : error;
      }
    };
    expect(refusal('pace.walkSpeed')).toBeNull();
    expect(refusal('stamina.max')).toMatch(/^stamina.max can’t be live: the motion uses what is computed from it/);
    expect(refusal('ramp.halfLife')).toMatch(/doesn’t use it|computed from it/);
    expect(refusal('step.time')).toMatch(/doesn’t use it|computed from it/);
    expect(refusal('facing.turn')).toBe('facing.turn can’t be live: it is no number of a tuning');
    expect(refusal('nothing.atAll')).toBe('nothing.atAll can’t be live: it is no number of a tuning');
  });
});
