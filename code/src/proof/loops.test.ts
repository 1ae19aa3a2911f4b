import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eventBit, gaits, newGround, Replay, type Tape, type Tuning, World } from '@zygopod/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { printerOf } from '../languages/registry.ts';
import { motionOnce } from '../testing/once.ts';
import { proofs, provable } from '../testing/proofs.ts';
import { demo, randomTape, tuned } from '../testing/random.ts';

/** The loops at the end of the page are programs: each is run as it stands there, with the motion beside it. */

const page = readFileSync(join(import.meta.dirname, '../../../docs/hand-off.md'), 'utf8');

/** The last block of code in a language. */
function loopIn(fence: string): string {
  const blocks = [...page.matchAll(new RegExp(`^\`\`\`${fence}\\n([\\s\\S]*?)^\`\`\`$`, 'gm'))];
  return blocks.at(-1)?.[1] ?? '';
}

const TICKS = 300;

/** The changes of a tape's hands, one a line. */
const linesOf = ({ events }: Tape): string =>
  events
    .map(({ at, ...event }) => {
      const [[what, value]] = Object.entries(event) as [[string, unknown]];
      return `${at} ${what} ${Array.isArray(value) ? value.join(' ') : value}`;
    })
    .join('\n');

/** Place, velocity and facing of each tick, by the model. */
function modelOf(tuning: Tuning, tape: Tape): number[][] {
  const ground = { ...newGround('Area'), size: { width: 960, height: 540 }, start: { x: 480, y: 270, facing: 0 } };
  const world = new World(tuning.parameters, ground, TICKS);
  const replay = new Replay(tape, tuning.parameters.clock.hz);
  return Array.from({ length: TICKS }, () => {
    world.tick(replay.next());
    const { x, y, vx, vy, facingAngle } = world.body;
    return [x, y, vx, vy, facingAngle];
  });
}

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-loops-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

const tunings: readonly (readonly [string, Tuning])[] = [
  ['Carrier, day boots', demo('carrier-day-boots')],
  ['one that wraps, facing the pointer', tuned({ 'bounds.policy': 'wrap', 'facing.from': 'pointer', 'pace.walkSpeed': 400 })],
  [
    'one with insets, a box by its corner',
    tuned({
      'bounds.inset.left': 24,
      'body.shape': 'box',
      'body.originX': 0,
      'input.devices': 'newest',
      'pace.walkSpeed': 320,
    }),
  ],
];

describe.each(provable)('the loop on the page in %s', (language) => {
  it.each(tunings)('is the model’s with %s, bit for bit', (_, tuning) => {
    const printer = printerOf(language);
    writeFileSync(join(folder, 'package.json'), '{"type":"module"}');
    writeFileSync(join(folder, `motion.${printer.extension}`), printer.file(motionOnce(tuning)));
    const loop = loopIn(language);
    expect(loop.split('\n').length).toBeLessThan(45);
    writeFileSync(join(folder, `loop.${printer.extension}`), loop);
    for (const seed of [3, 71]) {
      const tape = randomTape(seed, TICKS);
      writeFileSync(join(folder, 'hands.txt'), `${linesOf(tape)}\n`);
      const rows = proofs[language]
        .run('loop', folder, '')
        .trim()
        .split('\n')
        .map((line) => line.split(' ').map((word) => Number(word) + 0));
      const wanted = modelOf(tuning, tape).map((row) => row.map((value) => value + 0));
      expect(rows.length).toBe(TICKS);
      const parts = rows.findIndex((row, i) => row.some((value, k) => !Object.is(value, wanted[i]?.[k])));
      expect(parts < 0 ? 'the same' : `tick ${parts}: ${rows[parts]} and ${wanted[parts]}`).toBe('the same');
    }
  });
});

describe('the page', () => {
  it('names every event with its number, and every gait', () => {
    for (const [name, bit] of Object.entries(eventBit)) expect(page, name).toContain(`${bit >>> 0} \`${name}\``);
    for (const [i, gait] of gaits.entries()) expect(page, gait).toContain(`${i} ${gait}`);
  });
});
