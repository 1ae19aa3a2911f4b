import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from '../root.ts';

const main = join(root, 'cli/src/main.ts');
const folder = mkdtempSync(join(tmpdir(), 'zygopod-sim-'));

function zygopod(args: string[], input = ''): { status: number | null; stdout: string; stderr: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [main, ...args], { encoding: 'utf8', input });
  return { status, stdout, stderr };
}

function write(name: string, value: unknown): string {
  const path = join(folder, name);
  writeFileSync(path, typeof value === 'string' ? value : JSON.stringify(value));
  return path;
}

const demo = (name: string) => join(root, 'demo', name);
const sim = (tuning: string, ...more: string[]) =>
  zygopod(['sim', '--tuning', tuning, '--ground', demo('boardwalk.ground.json'), '--tape', demo('out-and-back.tape.json'), ...more]);

describe('sim', () => {
  it('writes the trace with its start row, one row a tick, and the hash', () => {
    const { status, stdout, stderr } = sim(demo('carrier-day-boots.tuning.json'));
    expect(status).toBe(0);
    const rows = stdout.trimEnd().split('\r\n');
    expect(rows[0]).toMatch(/^tick,time,x,y,vx,vy,speed,facing,gait,stamina,contacts,pose/);
    expect(rows[1]).toMatch(/^-1,0,160,256,0,0,0,0,stand,100,0,stand-E/);
    expect(rows).toHaveLength(482);
    expect(stderr).toMatch(/^[0-9a-f]{16}\n$/);
  });

  it('gives the same bytes again, to a file, and takes a tuning from stdin', () => {
    const out = join(folder, 'trace.csv');
    const first = sim(demo('carrier-day-boots.tuning.json'), '--trace', out);
    const text = readFileSync(demo('carrier-day-boots.tuning.json'), 'utf8');
    const again = zygopod(
      ['sim', '--tuning', '-', '--ground', demo('boardwalk.ground.json'), '--tape', demo('out-and-back.tape.json')],
      text,
    );
    expect(again.stdout).toBe(readFileSync(out, 'utf8'));
    expect(again.stderr).toBe(first.stderr);
  });

  it('replays at another tick rate', () => {
    const { stdout } = sim(demo('carrier-day-boots.tuning.json'), '--hz', '30');
    expect(stdout.trimEnd().split('\r\n')).toHaveLength(242);
  });

  const tuning = { format: 'zygopod/tuning', version: 1, name: 'Bad' };
  it.each([
    ['an unknown key', { ...tuning, pace: { walkSped: 1 } }, 'pace.walkSped: found an unknown key, expected only keys of the format'],
    ['a wrong type', { ...tuning, pace: { walkSpeed: 'fast' } }, 'pace.walkSpeed: found "fast", expected a number'],
    ['NaN', '{"format":"zygopod/tuning","version":1,"name":"Bad","pace":{"walkSpeed":NaN}}', 'found invalid JSON'],
    ['infinity', '{"format":"zygopod/tuning","version":1,"name":"Bad","pace":{"walkSpeed":1e999}}', 'pace.walkSpeed: found'],
    ['a link loop', { ...tuning, pace: { walkSpeed: { of: 'pace.walkSpeed' } } }, 'pace.walkSpeed: found a loop of links'],
    [
      'a link to nothing',
      { ...tuning, pace: { sprintSpeed: { of: 'pace.running' } } },
      'pace.sprintSpeed.of: found "pace.running", expected the path of a number',
    ],
    ['a newer version', { ...tuning, version: 9 }, 'version: found 9, expected at most 2'],
    ['out of range', { ...tuning, clock: { hz: 0 } }, 'clock.hz: found 0, expected a value of at least 1'],
    ['another format', { ...tuning, format: 'zygopod/tape' }, 'format: found "zygopod/tape", expected "zygopod/tuning"'],
  ])('%s is one line and exit code 2', (_, value, words) => {
    const path = write('bad.tuning.json', value);
    const { status, stdout, stderr } = sim(path);
    expect(status).toBe(2);
    expect(stdout).toBe('');
    expect(stderr.trimEnd().split('\n')).toHaveLength(1);
    expect(stderr).toContain(`${path}: `);
    expect(stderr).toContain(words);
  });

  it('says what is missing, and is misuse', () => {
    expect(sim('nowhere.json')).toMatchObject({ status: 2, stderr: 'nowhere.json: cannot be read (ENOENT)\n' });
    expect(zygopod(['sim']).status).toBe(2);
    expect(zygopod(['sim', '--help'])).toMatchObject({ status: 0 });
    expect(zygopod(['sim', '--help']).stdout).toContain('Example');
    expect(sim(demo('carrier-day-boots.tuning.json'), '--hz', '0').status).toBe(2);
  });
});

describe('check', () => {
  it('passes the demo data', () => {
    expect(zygopod(['check', demo('boardwalk.ground.json'), demo('carrier-day-boots.tuning.json')]).status).toBe(0);
  });

  it('lists faults as JSON with exit code 1', () => {
    const path = write('bad.ground.json', {
      format: 'zygopod/ground',
      version: 1,
      name: 'Bad',
      size: { width: 10, height: 10 },
      start: { x: 1, y: 1 },
      cells: ['..', '.'],
    });
    const { status, stdout } = zygopod(['check', '--json', path]);
    expect(status).toBe(1);
    expect(JSON.parse(stdout)).toMatchObject({
      ok: false,
      errors: [{ path: 'cells.1', message: 'cells.1: found a row of 1 cells, expected 2, like the first row' }],
    });
  });
});
