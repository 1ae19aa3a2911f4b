import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from '../root.ts';

const folder = mkdtempSync(join(tmpdir(), 'zygopod-tape-'));
const demo = (name: string) => join(root, 'demo', name);
const tuning = demo('carrier-day-boots.tuning.json');
const ground = demo('boardwalk.ground.json');
const whole = demo('out-and-back.tape.json');

function zygopod(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), ...args], { encoding: 'utf8' });
  return { status, stdout, stderr };
}
const trace = (tape: string) => zygopod('sim', '--tuning', tuning, '--ground', ground, '--tape', tape);

describe('tape', () => {
  it('cuts a span whose trace is that of the whole, byte by byte', () => {
    const span = join(folder, 'span.tape.json');
    expect(zygopod('tape', 'cut', whole, '--tuning', tuning, '--ground', ground, '--from', '2', '--to', '5.5', '-o', span).status).toBe(0);
    const rows = (text: string) => text.trimEnd().split('\r\n').slice(1);
    const all = rows(trace(whole).stdout);
    const cut = trace(span);
    expect(cut.stderr).toMatch(/^[0-9a-f]{16}\n$/);
    // Row 0 is the start; the span begins with the state after two seconds of ticks.
    expect(rows(cut.stdout)).toEqual(all.slice(120, 120 + 3.5 * 60 + 1));
  });

  it('can begin where another one does', () => {
    const span = join(folder, 'begin.tape.json');
    zygopod('tape', 'cut', whole, '--tuning', tuning, '--ground', ground, '--from', '1', '--to', '3', '-o', span);
    const { snapshot: _, ...rest } = JSON.parse(readFileSync(span, 'utf8')) as { snapshot: object };
    const bare = join(folder, 'bare.tape.json');
    writeFileSync(bare, JSON.stringify(rest));
    expect(trace(bare).stdout).not.toBe(trace(span).stdout);
    const from = (path: string) => zygopod('sim', '--tuning', tuning, '--ground', ground, '--tape', bare, '--from', path);
    expect(from(span).stdout).toBe(trace(span).stdout);
    expect(from(whole)).toMatchObject({ status: 2, stderr: expect.stringMatching(/^.*--from: found .* without a snapshot.*\n$/) });
  });

  it('shows what is on one, for people and for machines', () => {
    expect(zygopod('tape', 'show', whole).stdout).toContain('0.167 s  press right');
    expect(JSON.parse(zygopod('tape', 'show', whole, '--json').stdout)).toMatchObject({
      name: 'Out and back',
      ticks: 480,
      seconds: 8,
      begins: 'at the start of the ground',
      events: { press: 6, release: 6, stick: 0 },
    });
  });

  it.each([
    [['--from', '3', '--to', '2'], /--to: found 2/],
    [['--from', 'x', '--to', '2'], /--from: found x/],
    [['--from', '100', '--to', '200'], /--to: found 200/],
  ])('refuses %j in a line', (span, why) => {
    const { status, stderr } = zygopod('tape', 'cut', whole, '--tuning', tuning, '--ground', ground, ...span);
    expect(status).toBe(2);
    expect(stderr).toMatch(why);
    expect(stderr.trimEnd().split('\n')).toHaveLength(1);
  });
});
