import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { seeds } from '../../core/src/testing/campaign.ts';
import { cpuTime } from '../../core/src/testing/cpuTime.ts';
import { snake } from './casing/casing.ts';
import { Sources } from './fold/source.ts';
import { fieldsOf } from './fold/tidy.ts';
import { languageIds } from './languages/list.ts';
import { callbacksUsed } from './languages/program.ts';
import { motionPrinters, printerOf } from './languages/registry.ts';
import { meetsWalls, motionOf } from './motion.ts';
import { motionOnce, wallsOnce } from './testing/once.ts';
import { proofs } from './testing/proofs.ts';
import { amongWalls, demo, randomTuning, tuned } from './testing/random.ts';
import { wallsOf } from './walls.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-files-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** Tunings of bodies that meet walls, half of them on paths. */
const meeting = seeds(4, 24).map((seed) => amongWalls(seed * 103 + 5, { 'route.enabled': seed % 2 === 0 }));

describe('the code of a tuning', () => {
  const linted = languageIds.flatMap((id) => {
    const { linter } = proofs[id];
    return linter ? [{ id, ...linter }] : [];
  });
  it.each(linted)('in $id has nothing that $program finds', ({ id, program: linter, options, isOneFile }) => {
    // Where there is no such program on the machine, nothing is said of it here.
    if (spawnSync(linter, ['--version']).error) return;
    const printer = printerOf(id);
    const linted = mkdtempSync(join(folder, 'linted-'));
    const write = (name: string, text: string) => writeFileSync(join(linted, `${name}.${printer.extension}`), text);
    const tunings = ['carrier-day-boots', 'carrier-storm-boots', 'pram-cart', 'first-draft', 'sorting-clerk', 'ferry-hand'].map(demo);
    const random = seeds(3, 24).map((seed) => randomTuning(seed * 101 + 5));
    for (const [i, one] of [...tunings, ...random, ...meeting].entries()) {
      const motion = printer.file(motionOnce(one));
      const walls = meetsWalls(one.parameters) ? printer.walls(wallsOnce(one)) : '';
      write(`linted${i}`, isOneFile ? motion + walls : motion);
      if (walls !== '' && !isOneFile) write(`walls${i}`, walls);
    }
    const said = spawnSync(linter, [...options, ...readdirSync(linted)], { encoding: 'utf8', cwd: linted });
    expect([said.status, said.status === 0 ? '' : said.stdout + said.stderr]).toEqual([0, '']);
  });

  it('of Carrier, day boots has under 450 lines in C', () => {
    const file = printerOf('c').file(motionOf(demo('carrier-day-boots')));
    expect(file.trimEnd().split('\n').length).toBeLessThan(450);
  });

  it('takes less than 300 ms of a processor, once the core was read', async () => {
    motionOf(demo('pram-cart'));
    const taken: number[] = [];
    for (let i = 0; i < 3; i++) {
      const { milliseconds } = await cpuTime(() => {
        const motion = motionOf(demo('carrier-day-boots'));
        for (const printer of motionPrinters()) printer.file(motion);
      });
      taken.push(milliseconds);
    }
    expect(Math.min(...taken)).toBeLessThan(300);
  });

  it('holds what the tuning uses and no more', () => {
    for (const id of languageIds) {
      const printer = printerOf(id);
      const named = (name: string) => (proofs[id].isCamel ? name : snake(name));
      const plain = printer.file(motionOf(tuned()));
      expect(plain).toContain(named('stepVelocity'));
      expect(plain).not.toContain(named('stepLumps'));
      expect(plain).not.toContain(named('turnAndDrive'));
      expect(printer.file(motionOf(tuned({ 'stamina.enabled': true, 'stamina.interval': 0.5 })))).toContain(named('stepLumps'));
    }
  });

  it('calls back for contact if its body meets walls, and for paths if it goes to points', () => {
    expect(callbacksUsed(motionOf(tuned()))).toEqual(['contact']);
    expect(callbacksUsed(motionOf(tuned({ 'contact.response': 'none' })))).toEqual([]);
    expect(callbacksUsed(motionOf(tuned({ scheme: 'step' })))).toEqual(['isClear']);
    expect(callbacksUsed(motionOf(tuned({ 'route.enabled': true })))).toEqual(['contact', 'isClear', 'plan']);
  });

  it('has no second file where its body meets no walls', () => {
    expect(() => wallsOf(tuned({ 'contact.response': 'none' }))).toThrow('meets none');
    expect(() => wallsOf(tuned({ scheme: 'step' }))).toThrow('meets none');
  });

  it('has in the first file what the second one reads and writes of the body', () => {
    for (const tuning of meeting) {
      const there = new Set(motionOnce(tuning).fields.map(([field]) => field));
      expect([...fieldsOf(wallsOnce(tuning).program)].filter((field) => !there.has(field))).toEqual([]);
    }
  });
});

describe('a formula of contact', () => {
  it('that is changed is another one in all six second files', () => {
    const copy = join(folder, 'core-of-contact');
    cpSync(join(import.meta.dirname, '../../core/src'), copy, { recursive: true, filter: (path) => !path.endsWith('.test.ts') });
    const texts = () => motionPrinters().map((printer) => printer.walls(wallsOf(tuned(), new Sources(copy))));
    const was = texts();
    const at = join(copy, 'collision/sweepCircle.ts');
    const text = readFileSync(at, 'utf8');
    expect(text).toContain('time = away / -approach;');
    writeFileSync(at, text.replace('time = away / -approach;', 'time = (away * 0.8125) / -approach;'));
    for (const [i, file] of texts().entries()) {
      expect(was[i]).not.toContain('0.8125');
      const lines = (was[i] as string).split('\n');
      expect(file.split('\n').filter((line, at) => line !== lines[at])).toEqual([expect.stringContaining('0.8125')]);
    }
  });
});

describe('a formula of the core', () => {
  it('that is changed is another one in all six languages, with no other edit', () => {
    const copy = join(folder, 'core');
    cpSync(join(import.meta.dirname, '../../core/src'), copy, { recursive: true, filter: (path) => !path.endsWith('.test.ts') });
    const was = motionPrinters().map((printer) => printer.file(motionOf(tuned())));
    expect(motionPrinters().map((printer) => printer.file(motionOf(tuned(), { sources: new Sources(copy) })))).toEqual(was);
    const at = join(copy, 'motion/ramp.ts');
    const text = readFileSync(at, 'utf8');
    expect(text).toContain('vx + (ex * gained) / difference');
    writeFileSync(at, text.replace('vx + (ex * gained) / difference', 'vx + (ex * gained * 0.8125) / difference'));
    const changed = motionPrinters().map((printer) => printer.file(motionOf(tuned(), { sources: new Sources(copy) })));
    for (const [i, file] of changed.entries()) {
      expect(was[i]).not.toContain('0.8125');
      expect(file.split('0.8125')).toHaveLength(2);
      // And nothing else of the file.
      const lines = (was[i] as string).split('\n');
      expect(file.split('\n').filter((line, at) => line !== lines[at])).toHaveLength(1);
    }
  });
});
