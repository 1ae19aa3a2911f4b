import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root } from '../root.ts';

let folder: string;
const demo = (name: string) => join(root, 'demo', name);
const run = (...args: string[]) => spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), ...args], { encoding: 'utf8' });
const create = () =>
  run('checks', demo('carrier-day-boots.tuning.json'), '--tape', demo('out-and-back.tape.json'), demo('gap-run.tape.json'), '-o', folder);
const has = (program: string, probe = '--version') => !spawnSync(program, [probe]).error;
const goldens = ['goldens/out-and-back.csv', 'goldens/through-the-gap.csv'];

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-checks-'));
  expect(create()).toMatchObject({ status: 0, stdout: expect.stringContaining('2 goldens') });
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

  it('holds the ground that a lap is judged on, and the command of its readme drives it', () => {
    const own = mkdtempSync(join(tmpdir(), 'zygopod-lap-checks-'));
    const [tuning, ground] = [demo('carrier-day-boots.tuning.json'), demo('boardwalk.ground.json')];
    expect(run('checks', tuning, '--tape', demo('out-and-back.tape.json'), '--ground', ground, '-o', own).status).toBe(0);
    const targets = JSON.parse(readFileSync(join(own, 'targets.targets.json'), 'utf8')) as {
      targets: { metric: string; min: number; max: number }[];
    };
    const { time } = JSON.parse(run('lap', '--tuning', tuning, '--ground', ground, '--json').stdout) as { time: number };
    const band = targets.targets.find(({ metric }) => metric === 'lapTime') as { min: number; max: number };
    expect(band.min).toBeLessThan(time);
    expect(band.max).toBeGreaterThan(time);
    const command = /^\.\/zygopod (drill .+)$/m.exec(readFileSync(join(own, 'README.md'), 'utf8'))?.[1]?.split(' ') ?? [];
    const drill = (targetsFile: string) =>
      spawnSync(
        process.execPath,
        [join(root, 'cli/src/main.ts'), ...command.map((word) => (word === 'targets.targets.json' ? targetsFile : word))],
        {
          cwd: own,
          encoding: 'utf8',
        },
      ).status;
    expect(command).toContain('ground.ground.json');
    expect(drill('targets.targets.json')).toBe(0);
    // A lap that is too slow by a hundredth fails.
    writeFileSync(join(own, 'slow.targets.json'), JSON.stringify({ ...targets, targets: [{ metric: 'lapTime', max: time - 0.01 }] }));
    expect(drill('slow.targets.json')).toBe(1);
    rmSync(own, { recursive: true });
  });

  it.each<{ language: string; needs: string; motion: string; from: RegExp; to: string; build?: string[]; run: string[]; probe?: string }>([
    { language: 'Python', needs: 'python3', motion: 'motion.py', from: /return 900\.0/, to: 'return 901.0', run: ['python3', 'check.py'] },
    {
      language: 'C',
      needs: 'gcc',
      motion: 'motion.c',
      from: /return 900\.0/,
      to: 'return 901.0',
      build: ['gcc', '-Wall', '-Wextra', '-Werror', '-O2', '-ffp-contract=off', 'check.c', '-lm', '-o', 'check'],
      run: ['./check', ...goldens],
    },
    {
      language: 'TypeScript',
      needs: process.execPath,
      motion: 'motion.ts',
      from: /return 900\.0/,
      to: 'return 901.0',
      run: [process.execPath, 'check.ts'],
    },
    {
      language: 'Lua',
      needs: 'lua5.4',
      probe: '-v',
      motion: 'motion.lua',
      from: /return 900\.0/,
      to: 'return 901.0',
      run: ['lua5.4', 'check.lua', ...goldens],
    },
    {
      language: 'Rust',
      needs: 'rustc',
      motion: 'motion.rs',
      from: /return 900\.0/,
      to: 'return 901.0',
      build: ['rustc', '-O', 'check.rs', '-o', 'check-rs'],
      run: ['./check-rs', ...goldens],
    },
    {
      language: 'C#',
      needs: 'mcs',
      motion: 'motion.cs',
      from: /return 900\.0/,
      to: 'return 901.0',
      build: ['mcs', 'check.cs', 'motion.cs', '-out:check.exe'],
      run: ['mono', 'check.exe', ...goldens],
    },
  ])(
    'fails in $language once one number of the game is another, and says where and by how much',
    ({ needs, probe, motion, from, to, build, run: test }) => {
      // Where there is no compiler on the machine, nothing is said of it here.
      if (!has(needs, probe)) return;
      const check = () => {
        if (build)
          expect(spawnSync(build[0] as string, build.slice(1), { cwd: folder, encoding: 'utf8' })).toMatchObject({ status: 0, stderr: '' });
        const [program, ...args] = test as [string, ...string[]];
        return spawnSync(program, args, { cwd: folder, encoding: 'utf8' });
      };
      const good = check();
      expect(good).toMatchObject({ status: 0, stderr: expect.not.stringContaining('rror') });
      expect(good.stdout.replaceAll('goldens/', '')).toBe('out-and-back.csv: good\nthrough-the-gap.csv: good\n');
      change(motion, from, to);
      const failed = check();
      expect(failed.status).toBe(1);
      expect(failed.stdout).toMatch(where);
    },
  );

  it.each([
    ['steps from cell to cell, and asks the game where it can', 'sorting-clerk', 'cell-walk'],
    ['goes to where it was clicked, along the ways that the game gives', 'ferry-hand', 'flats-clicks'],
  ])('is good, too, where the motion %s', (_, tuning, tape) => {
    const steps = join(folder, tuning);
    expect(run('checks', demo(`${tuning}.tuning.json`), '--tape', demo(`${tape}.tape.json`), '-o', steps).status).toBe(0);
    const golden = `goldens/${readdirSync(join(steps, 'goldens'))[0]}`;
    for (const [needs, build, test, probe] of [
      ['python3', '', 'python3 check.py'],
      ['gcc', 'gcc -Wall -Wextra -Werror -ffp-contract=off check.c -lm -o check', `./check ${golden}`],
      ['lua5.4', '', `lua5.4 check.lua ${golden}`, '-v'],
      ['rustc', 'rustc check.rs -o check-rs', `./check-rs ${golden}`],
      ['mcs', 'mcs check.cs motion.cs -out:check.exe', `mono check.exe ${golden}`],
      [process.execPath, '', `${process.execPath} check.ts`],
    ] as const) {
      if (!has(needs, probe)) continue;
      const done = spawnSync('sh', ['-c', build ? `${build} && ${test}` : test], { cwd: steps, encoding: 'utf8' });
      expect([needs, done.status, done.stdout.trim().endsWith(': good')], done.stderr + done.stdout).toEqual([needs, 0, true]);
    }
  });

  it('is written again without touching what is the game’s own', () => {
    writeFileSync(join(folder, 'game.py'), '# ours\n');
    expect(create().status).toBe(0);
    expect(readFileSync(join(folder, 'game.py'), 'utf8')).toBe('# ours\n');
  });

  it('says what is no tape before anything is written', () => {
    const none = join(folder, 'none');
    const refused = run('checks', demo('ferry-hand.tuning.json'), '--tape', demo('ferry-hand.tuning.json'), '-o', none);
    expect(refused).toMatchObject({ status: 2, stderr: expect.stringContaining('ferry-hand.tuning.json') });
    expect(existsSync(none)).toBe(false);
  });
});
