import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { driveLaps } from '@zygopod/core';
import { afterAll, describe, expect, it } from 'vitest';
import { groundFile, tuningFile } from '../files.ts';
import { root } from '../root.ts';

const demo = (name: string) => join(root, 'demo', name);
const folder = mkdtempSync(join(tmpdir(), 'zygopod-lap-'));
afterAll(() => rmSync(folder, { recursive: true }));

function run(command: string, tuning: string, ground: string, ...args: string[]) {
  const files = ['--tuning', demo(`${tuning}.tuning.json`), '--ground', demo(`${ground}.ground.json`)];
  return spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), command, ...files, ...args], { encoding: 'utf8' });
}

describe('lap', () => {
  it('prints the lap that the core drives, and writes the tape that drives it again', () => {
    const tape = join(folder, 'lap.tape.json');
    const { status, stdout } = run('lap', 'carrier-day-boots', 'boardwalk', '--json', '-o', tape);
    expect(status).toBe(0);
    const [lap] = driveLaps(tuningFile(demo('carrier-day-boots.tuning.json')).parameters, groundFile(demo('boardwalk.ground.json'))).laps;
    expect(JSON.parse(stdout)).toEqual(lap);
    expect(Object.keys(JSON.parse(stdout))).toEqual([
      'finished',
      'time',
      'gates',
      'touches',
      'contactTime',
      'corrections',
      'distance',
      'path',
      'sprint',
    ]);
    const kept = JSON.parse(readFileSync(tape, 'utf8'));
    expect(kept).toMatchObject({ format: 'zygopod/tape', ground: 'Boardwalk' });
    const trace = run('sim', 'carrier-day-boots', 'boardwalk', '--tape', tape).stdout.trim().split('\n');
    expect(trace.length - 1).toBeGreaterThanOrEqual(kept.ticks);
  });

  it.each([
    ['lap', ['-o', '-'], /^\{\s+"format": "zygopod\/tape"/],
    ['drill', ['--junit', '-'], /^<\?xml/],
  ])('%s %j writes that data, and nothing else, to stdout', (command, args, begins) => {
    const { stdout, stderr } = run(command, 'carrier-day-boots', 'boardwalk', ...args);
    expect(stdout).toMatch(begins);
    if (command === 'lap') expect(JSON.parse(stdout).ticks).toBeGreaterThan(0);
    else expect(stdout.trimEnd()).toMatch(/<\/testsuites>$/);
    expect(stderr).toContain(command === 'lap' ? 'finished' : 'Carrier');
    expect(existsSync('-')).toBe(false);
  });

  it('gives all laps and their spread with jitter, the same for the same seed', () => {
    const args = ['--json', '--jitter', '0.2', '--laps', '5', '--seed', '3'];
    const [one, again] = [run('lap', 'first-draft', 'boardwalk', ...args), run('lap', 'first-draft', 'boardwalk', ...args)];
    const { laps, spread } = JSON.parse(one.stdout);
    expect(laps).toHaveLength(5);
    expect(spread.time.p10).toBeLessThanOrEqual(spread.time.median);
    expect(spread.time.median).toBeLessThanOrEqual(spread.time.p90);
    expect(again.stdout).toBe(one.stdout);
  });

  it.each([
    ['carrier-day-boots', ['--device', 'cells'], 'found cells: the device cells needs the scheme step'],
    ['carrier-day-boots', ['--device', 'oars'], 'expected one of keys8, keys4, stick, pointer, cells'],
    ['sorting-clerk', ['--device', 'keys8'], 'grid steps need the device cells'],
    ['carrier-day-boots', ['--reaction', '-1'], '--reaction: found -1, expected a number from 0 to 2'],
    ['carrier-day-boots', ['--laps', '2.5'], '--laps: found 2.5, expected a whole number'],
  ])('refuses a wrong option of %s: %s', (tuning, args, words) => {
    const { status, stderr } = run('lap', tuning, 'boardwalk', ...args);
    expect([status, stderr]).toEqual([2, expect.stringContaining(words)]);
  });
});
