import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newGround, readTape } from '@zygopod/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { seeds } from '../../../core/src/testing/campaign.ts';
import { sequence } from '../../../core/src/testing/sequence.ts';
import { proveOn } from '../testing/proof.ts';
import { provable } from '../testing/proofs.ts';
import { demo, randomTape, randomTuning, tuned } from '../testing/random.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-motion-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

describe.each(provable)('the motion in %s', (language) => {
  it.each(['carrier-day-boots', 'carrier-storm-boots', 'pram-cart', 'first-draft'])(
    'of the demo’s %s is the model’s, bit for bit',
    (name) => {
      const tapes = ['out-and-back', 'boardwalk-lap', 'gap-run', 'sprint-to-empty'].map((tape) => {
        const read = readTape(JSON.parse(readFileSync(join(import.meta.dirname, '../../../demo', `${tape}.tape.json`), 'utf8')));
        if (!read.ok) throw new Error(tape);
        return read.value;
      });
      expect(proveOn(language, demo(name), tapes, folder)).toBeNull();
    },
  );

  it('of random tunings on random tapes is the model’s, bit for bit', () => {
    for (const seed of seeds(3, 24)) {
      const tapes = Array.from({ length: 25 }, (_, i) => randomTape(seed * 31 + i * 1009, 300));
      expect(proveOn(language, randomTuning(seed * 97), tapes, folder), `seed ${seed}`).toBeNull();
    }
  });

  it.each(['clamp', 'push', 'wrap', 'sendTo'])('is the model’s at edges that %s, bit for bit', (policy) => {
    for (const seed of seeds(1, 8)) {
      const next = sequence(seed * 41 + policy.length);
      const tuning = tuned({
        'bounds.policy': policy,
        'bounds.measure': next() < 0.5 ? 'body' : 'centre',
        'bounds.inset.left': Math.round(next() * 20),
        'bounds.push': 3,
        'bounds.sendToX': 90,
        'bounds.sendToY': 60,
        'body.shape': next() < 0.5 ? 'circle' : 'box',
        'body.originX': next(),
        'pace.walkSpeed': 120 + next() * 200,
        'ramp.model': seed % 2 === 1 ? 'instant' : 'linear',
        'stamina.enabled': seed % 2 === 0,
      });
      const ground = { ...newGround('Small'), size: { width: 240, height: 160 }, start: { x: 120, y: 80 } };
      const tapes = Array.from({ length: 10 }, (_, i) => randomTape(seed * 57 + i * 1013, 400));
      expect(proveOn(language, tuning, tapes, folder, { ground }), `seed ${seed}`).toBeNull();
    }
  });

  it('steps from cell to cell as the model does, bit for bit, and asks the game where it can', () => {
    // Cells that are solid, as the program of each language has them.
    const rows = Array.from({ length: 12 }, (_, y) =>
      Array.from({ length: 16 }, (__, x) => ((x * 7 + y * 13) % 5 === 0 ? '#' : '.')).join(''),
    );
    const ground = {
      ...newGround('Cells'),
      size: { width: 512, height: 384 },
      cell: 32,
      cells: rows,
      start: { x: 5 * 32 + 16, y: 3 * 32 + 16 },
    };
    expect(rows[3]?.[5]).toBe('.');
    for (const seed of seeds(1, 12)) {
      const next = sequence(seed * 71);
      const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
      const tuning = tuned({
        scheme: 'step',
        'step.cell': 32,
        'step.time': pick(0.15, 0.2, 0.33),
        'step.ease': pick('linear', 'smooth'),
        'step.buffer': next() * 0.2,
        'step.turnTime': pick(0, 0.08),
        'step.diagonals': seed % 3 !== 1,
        'step.diagonalTime': pick('same', 'scaled'),
        'step.repeat': pick(true, false),
        'step.bumpTime': pick(0, 0.1),
        'bounds.policy': ['clamp', 'wrap', 'none'][seed % 3] as string,
        'bounds.measure': 'centre',
        'clock.hz': pick(30, 60, 144),
        'body.shape': 'box',
        'body.width': 20,
        'body.height': 20,
        'facing.directions': '8',
      });
      const tapes = Array.from({ length: 10 }, (_, i) => randomTape(seed * 83 + i * 1019, 500));
      expect(proveOn(language, tuning, tapes, folder, { ground }), `seed ${seed}`).toBeNull();
    }
  });

  it('is not the model’s once a number in it is another in its last bit', () => {
    const other = tuned({ 'pace.walkSpeed': 100.00000000000001 });
    const held = randomTape(1, 60);
    held.events = [{ at: 1, press: 'right' }];
    expect(proveOn(language, tuned({ 'pace.walkSpeed': 100 }), [held], folder, { model: other })).toMatchObject({
      field: expect.any(String),
    });
  });
});
