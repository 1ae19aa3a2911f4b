import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root } from '../root.ts';

let folder: string;
const demo = (name: string) => join(root, 'demo', name);
const run = (...args: string[]) => spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), ...args], { encoding: 'utf8' });
const make = () =>
  run('checks', demo('carrier-day-boots.tuning.json'), '--tape', demo('out-and-back.tape.json'), demo('gap-run.tape.json'), '-o', folder);
const has = (program: string) => !spawnSync(program, ['--version']).error;

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-checks-'));
  expect(make()).toMatchObject({ status: 0, stdout: expect.stringContaining('2 goldens') });
});
afterAll(() => rmSync(folder, { recursive: true }));

/** Changes one number in a file of the game. */
function change(name: string, from: RegExp, to: string): void {
  const text = readFileSync(join(folder, name), 'utf8');
  expect(text).toMatch(from);
  writeFileSync(join(folder, name), text.replace(from, to));
}
const where = /first at tick \d+: x is [\d.e-]+, in the golden [\d.e-]+, off by [\d.e-]+/;

describe('the folder for a build server', () => {
  it('holds tuning, targets and goldens; the targets are met', () => {
    expect(readdirSync(join(folder, 'goldens')).sort()).toEqual(['out-and-back.csv', 'through-the-gap.csv']);
    const drill = run('drill', '--tuning', join(folder, 'tuning.tuning.json'), '--targets', join(folder, 'targets.targets.json'));
    expect(drill.status).toBe(0);
  });

  it.runIf(has('python3'))('fails in Python once one number of the game is another, and says where and by how much', () => {
    const check = () => spawnSync('python3', ['check.py'], { cwd: folder, encoding: 'utf8' });
    expect(check()).toMatchObject({ status: 0, stdout: expect.stringMatching(/^out-and-back\.csv: good\nthrough-the-gap\.csv: good\n$/) });
    change('motion.py', /return 900\.0/, 'return 901.0');
    const failed = check();
    expect(failed.status).toBe(1);
    expect(failed.stdout).toMatch(where);
  });

  it.runIf(has('gcc'))('fails in C once one number of the game is another, and says where and by how much', () => {
    const check = () => {
      const built = spawnSync('gcc', ['-Wall', '-Wextra', '-Werror', '-O2', '-ffp-contract=off', 'check.c', '-lm', '-o', 'check'], {
        cwd: folder,
        encoding: 'utf8',
      });
      expect(built.stderr).toBe('');
      return spawnSync(join(folder, 'check'), ['goldens/out-and-back.csv'], { cwd: folder, encoding: 'utf8' });
    };
    expect(check()).toMatchObject({ status: 0, stdout: 'goldens/out-and-back.csv: good\n' });
    change('motion.c', /return 900\.0/, 'return 901.0');
    const failed = check();
    expect(failed.status).toBe(1);
    expect(failed.stdout).toMatch(where);
  });

  it('is written again without touching what is the game’s own', () => {
    writeFileSync(join(folder, 'game.py'), '# ours\n');
    expect(make().status).toBe(0);
    expect(readFileSync(join(folder, 'game.py'), 'utf8')).toBe('# ours\n');
  });

  it('says where no goldens can be made', () => {
    const ferry = run('checks', demo('ferry-hand.tuning.json'), '--tape', demo('out-and-back.tape.json'), '-o', join(folder, 'ferry'));
    expect(ferry).toMatchObject({ status: 1, stderr: expect.stringContaining('routes are the game') });
  });
});
