import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from '../root.ts';

const main = join(root, 'cli/src/main.ts');
const folder = mkdtempSync(join(tmpdir(), 'zygopod-any-'));
const demo = (name: string) => join(root, 'demo', name);
const tuning = demo('carrier-day-boots.tuning.json');
const ground = demo('boardwalk.ground.json');
const tape = demo('out-and-back.tape.json');

const run = (...args: string[]) => spawnSync(process.execPath, [main, ...args], { encoding: 'utf8', input: '', timeout: 60_000 });

function write(name: string, text: string | Uint8Array): string {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
}

/** A program's output contains no stack trace and no control sequence of a terminal. */
function expectPlain({ stdout, stderr }: { stdout: string; stderr: string }): void {
  expect(stderr).not.toMatch(/\n\s+at |node_modules|\.ts:\d/);
  // biome-ignore lint/suspicious/noControlCharactersInRegex: the pattern searches for them
  for (const text of [stdout, stderr]) expect(text).not.toMatch(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u202a-\u202e]/);
}

describe('any input', () => {
  const odd: [string, string][] = [
    ['nothing', ''],
    ['no JSON', '{"format":'],
    ['another format', '{"format":"zygopod/boat","version":1}'],
    ['an own key of all objects', '{"format":"constructor"}'],
    ['a list', '[1,2]'],
    ['null', 'null'],
    ['deep lists', '['.repeat(300_000)],
    ['an escape sequence in a key', '{"format":"zygopod/tuning","version":2,"name":"x","\\u001b[2J\\u009b31m\\u202e":1}'],
    ['an escape sequence in a value', '{"format":"\\u001b]0;owned\\u0007"}'],
    ['an escape sequence in raw', '{"format":"zygopod/tuning",\u009b'],
    ['a very long key', `{"format":"zygopod/tuning","version":2,"name":"x","${'k'.repeat(200_000)}":1}`],
    ['a surrogate alone', '{"format":"zygopod/tuning","version":2,"name":"\\ud800"}'],
  ];

  const paths = odd.map(([name, text]) => write(`${name.replaceAll(' ', '-')}.json`, text));

  it.each([[[]], [['--json']]])('to check is answered plainly, with %j', (more) => {
    const answer = run('check', ...paths, ...more);
    expectPlain(answer);
    expect(answer.status).toBe(1);
    expect(answer.stdout.length).toBeLessThan(20_000);
    if (more.length === 0) for (const path of paths) expect(answer.stdout).toContain(`${path}: `);
    else expect(JSON.parse(answer.stdout)).toHaveLength(paths.length);
  });

  it.each(odd.slice(0, -1).map(([name], i) => [name, i] as const))('to sim or route is refused in plain lines: %s', (_, i) => {
    const path = paths[i] as string;
    const commands = [
      ['sim', '--tuning', path, '--ground', ground, '--tape', tape],
      ['sim', '--tuning', tuning, '--ground', path, '--tape', tape],
      ['sim', '--tuning', tuning, '--ground', ground, '--tape', path],
      ['route', '--tuning', path, '--ground', ground, '--from', '1,1', '--to', '9,9'],
    ];
    const answer = run(...(commands[i % commands.length] as string[]));
    expectPlain(answer);
    expect([answer.status, answer.stdout]).toEqual([2, '']);
  });

  it('of bytes, of folders, of devices without end, of names that act on a terminal is refused in one line', () => {
    mkdirSync(join(folder, 'folder'), { recursive: true });
    const strange = [
      write('bytes.json', new Uint8Array([0xff, 0xfe, 0])),
      join(folder, 'folder'),
      join(folder, 'missing\u001b[31m'),
      '/dev/zero',
      '/dev/null/x',
    ];
    for (const path of strange) {
      const answer = run('check', path);
      expectPlain(answer);
      expect([answer.status, answer.stdout, answer.stderr.split('\n').length]).toEqual([2, '', 2]);
    }
  });

  it.each([
    ['sim', '--hz', '0'],
    ['sim', '--hz', 'NaN'],
    ['sim', '--hz', '1e9'],
    ['sim', '--frames', 'constructor'],
    ['sim', '--trace', '/nowhere/at/all.csv'],
    ['sim', '--trace', '/dev/full'],
    ['route', '--from', '1', '--to', '2,2'],
    ['route', '--from', 'NaN,1', '--to', '2,2'],
    ['route', '--from', '1e300,1', '--to', '2,2'],
    ['sim', '--unknown'],
    ['fly'],
  ])('to an option is refused in plain lines: %s %s %s', (command, ...more) => {
    const files = command === 'sim' ? ['--tuning', tuning, '--ground', ground, '--tape', tape] : ['--tuning', tuning, '--ground', ground];
    const answer = run(command, ...(command === 'fly' ? [] : files), ...more);
    expectPlain(answer);
    expect(answer.status).toBe(2);
    expect(answer.stderr).not.toBe('');
  });

  it('to a trace that cannot be written on stdout is an error; a reader that has seen enough is none', async () => {
    const args = [main, 'sim', '--tuning', tuning, '--ground', ground, '--tape', tape];
    const full = spawnSync('sh', ['-c', `"$0" "$@" > /dev/full`, process.execPath, ...args], { encoding: 'utf8' });
    expectPlain(full);
    expect([full.status, full.stderr]).toEqual([2, 'stdout: cannot be written (ENOSPC)\n']);
    const head = spawn('sh', ['-c', `"$0" "$@" | head -n 2`, process.execPath, ...args], { stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    head.stderr.on('data', (chunk: Buffer) => (said += chunk));
    await once(head, 'close');
    expect(said).toMatch(/^([0-9a-f]{16}\n)?$/);
  });

  it('of half a million ticks streams: memory does not grow with the tape, and every row is there', () => {
    const long = write(
      'long.json',
      JSON.stringify({ format: 'zygopod/tape', version: 2, name: 'Long', hz: 60, ticks: 500_000, events: [{ at: 0, press: 'right' }] }),
    );
    const trace = join(folder, 'long.csv');
    const measured = `process.on('exit', () => process.stderr.write('peak ' + process.resourceUsage().maxRSS + '\\n'))`;
    const hook = write('peak.mjs', measured);
    const peak = (path: string): number => {
      const files = ['--tuning', tuning, '--ground', ground, '--tape', path, '--trace', trace];
      const answer = spawnSync(process.execPath, ['--import', hook, main, 'sim', ...files], { encoding: 'utf8' });
      expect(answer.status).toBe(0);
      return Number(/peak (\d+)/.exec(answer.stderr)?.[1]) / 1024;
    };
    const short = peak(tape);
    const grown = peak(long) - short;
    expect(readFileSync(trace, 'utf8').split('\r\n').length - 1).toBe(500_002);
    expect(grown).toBeLessThan(100);
  });
});
