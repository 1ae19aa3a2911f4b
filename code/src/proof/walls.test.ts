import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { seeds } from '../../../core/src/testing/campaign.ts';
import { proveOn } from '../testing/proof.ts';
import { provable } from '../testing/proofs.ts';
import { amongWalls, clickTape, randomGround, randomTape } from '../testing/random.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-walls-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

describe.each(provable)('the motion in %s', (language) => {
  it('is the model’s among walls, by the second file, bit for bit', () => {
    for (const seed of seeds(2, 18)) {
      const ground = randomGround(seed * 131);
      const tapes = Array.from({ length: 8 }, (_, i) => randomTape(seed * 61 + i * 1021, 400));
      expect(proveOn(language, amongWalls(seed * 89), tapes, folder, { ground, walls: true }), `seed ${seed}`).toBeNull();
    }
  });

  it('is the model’s along paths to clicked points, bit for bit', () => {
    for (const seed of seeds(2, 18)) {
      const ground = randomGround(seed * 173);
      const tuning = amongWalls(seed * 89, {
        'route.enabled': true,
        'route.unreachable': seed % 6 === 5 ? 'refuse' : 'nearest',
        'route.arrival': seed % 2 === 0 ? 'exact' : 'radiusOnly',
        'route.brake': seed % 3 !== 0,
        'route.reclick': seed % 2 === 0 ? 'keep' : 'restart',
        'route.afterPlant': seed % 2 === 0 ? 'resume' : 'forget',
        'route.replanEvery': seed % 6 === 3 ? 0.5 : 0,
        'route.waypointRadius': seed,
      });
      const tapes = Array.from({ length: 8 }, (_, i) => clickTape(seed * 67 + i * 1031, 500));
      expect(proveOn(language, tuning, tapes, folder, { ground, walls: true }), `seed ${seed}`).toBeNull();
    }
  });
});
