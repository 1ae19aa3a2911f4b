import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from '../root.ts';

const folder = mkdtempSync(join(tmpdir(), 'zygopod-drill-'));
const demo = (name: string) => join(root, 'demo', name);
function zygopod(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), ...args], { encoding: 'utf8' });
  return { status, stdout, stderr };
}
function file(name: string, content: object): string {
  const path = join(folder, name);
  writeFileSync(path, JSON.stringify(content));
  return path;
}
const targets = (...list: object[]) => ({ format: 'zygopod/targets', version: 1, targets: list });
const day = demo('carrier-day-boots.tuning.json');

describe('drill', () => {
  it('prints the metrics of the day boots, all in their bands', () => {
    const { status, stdout } = zygopod('drill', '--tuning', day, '--targets', demo('brisk-carrier.targets.json'));
    expect(status).toBe(0);
    expect(stdout).toMatch(/Standing start +Reaches speed after +0\.154 s +in 0\.1 to 0\.2/);
    expect(stdout).toMatch(/Click tour +– needs click to go/);
    expect(stdout).toMatch(/19 in their band, 0 out, 0 not measured/);
  });

  it('exits 1 when a target is missed, and the JUnit file says which', () => {
    const junit = join(folder, 'out.xml');
    const set = file(
      'missed.targets.json',
      targets({ metric: 'stopDistance', max: 5 }, { metric: 'slideKept', at: 45, min: 0.6 }, { metric: 'stepTime', max: 1 }),
    );
    const { status, stdout } = zygopod('drill', '--tuning', day, '--targets', set, '--junit', junit);
    expect(status).toBe(1);
    expect(stdout).toMatch(/Stops within +7 px +OUT of at most 5/);
    const xml = readFileSync(junit, 'utf8');
    expect(xml).toMatch(/<testsuite name="Carrier, day boots" tests="3" failures="1" skipped="1"/);
    expect(xml).toMatch(
      /<testcase classname="hard-stop" name="stopDistance"[^>]*>\s*<failure message="Stops within: 7[^"]*, expected -∞ to 5"\/>/,
    );
    expect(xml).toMatch(/<testcase classname="wall-graze" name="slideKept\(45\)" time="0"\/>/);
    expect(xml).toMatch(/<testcase classname="none" name="stepTime" time="0">\s*<skipped/);
  });

  it('answers machines in the shape that is written', () => {
    const { status, stdout } = zygopod(
      'drill',
      '--tuning',
      demo('first-draft.tuning.json'),
      '--ground',
      demo('boardwalk.ground.json'),
      '--json',
    );
    expect(status).toBe(0);
    const answer = JSON.parse(stdout) as {
      tuning: string;
      ground: string;
      drills: { name: string; metrics: Record<string, number>; notRun?: string }[];
      metrics: Record<string, number>;
      targets: object[];
      snags: { id: string; severity: string; evidence: string; mend?: { set: object } }[];
    };
    expect([answer.tuning, answer.ground]).toEqual(['First draft', 'Boardwalk']);
    expect(answer.drills.length).toBeGreaterThanOrEqual(20);
    expect(answer.drills[0]).toMatchObject({ name: 'standing-start', metrics: { inputLatency: 1 } });
    expect(answer.metrics['diagonalRatio']).toBeCloseTo(Math.SQRT2, 6);
    expect('pathRatio' in answer.metrics).toBe(false);
    const ids = answer.snags.map(({ id }) => id);
    for (const id of ['sprint-not-faster', 'sprint-on-empty', 'diagonal-fast', 'clamp-centre', 'rate-dependent', 'gap-too-narrow'])
      expect(ids).toContain(id);
    expect(answer.snags.find(({ id }) => id === 'sprint-on-empty')).toMatchObject({
      severity: 'fault',
      mend: { set: { 'stamina.emptyEndsSprint': true } },
    });
  });

  it.each([
    ['no band', targets({ metric: 'riseTime' }), /targets\.0/],
    ['a band upside down', targets({ metric: 'riseTime', min: 2, max: 1 }), /targets\.0/],
    ['an angle where there is none', targets({ metric: 'riseTime', at: 45, max: 1 }), /targets\.0/],
    ['something else', { format: 'zygopod/tape', version: 1 }, /format: found/],
  ])('refuses targets with %s in a line', (_, content, why) => {
    const { status, stderr } = zygopod('drill', '--tuning', day, '--targets', file('bad.targets.json', content));
    expect(status).toBe(2);
    expect(stderr).toMatch(why);
    expect(stderr.trimEnd().split('\n')).toHaveLength(1);
  });

  it('reports targets that name no metric or contradict each other, and judges the rest', () => {
    const junit = join(folder, 'odd.xml');
    const odd = targets(
      { metric: 'jumpHeight', max: 1 },
      { metric: 'riseTime', max: 0.1 },
      { metric: 'riseTime', min: 0.2 },
      { metric: 'stopDistance', max: 9 },
    );
    const path = file('odd.targets.json', odd);
    const { status, stdout, stderr } = zygopod('drill', '--tuning', day, '--targets', path, '--junit', junit);
    expect(status).toBe(1);
    expect(stderr).toMatch(/target 1, jumpHeight: no metric is called jumpHeight/);
    expect(stderr).toMatch(/target 2, riseTime: no value is in this band and in that of target 3/);
    expect(stdout).toMatch(/Stops within +7 px +in at most 9/);
    expect(readFileSync(junit, 'utf8')).toMatch(/errors="1"[\s\S]*<error message="no metric is called jumpHeight"/);
    expect(zygopod('check', path)).toMatchObject({ status: 1 });
  });

  it('of every demo tuning is worth reading, without a server', () => {
    const { status, stdout } = zygopod('demo', '--json');
    expect(status).toBe(0);
    const { tunings, tapes } = JSON.parse(stdout) as {
      tunings: { tuning: string; snags: object[]; drills: { metrics: object }[] }[];
      tapes: { name: string }[];
    };
    expect(tunings).toHaveLength(6);
    for (const { tuning, snags } of tunings)
      if (tuning === 'First draft') expect(snags.length).toBeGreaterThanOrEqual(12);
      else expect(snags, tuning).toEqual([]);
    expect(tapes).toHaveLength(5);
    expect(zygopod('demo').stdout).toContain('Carrier, storm boots');
  });
});

describe('check', () => {
  it('lists the snags of a tuning with its ground and tape, and exits 0: they are no errors', () => {
    const with_ = ['--ground', demo('boardwalk.ground.json'), '--tape', demo('boardwalk-lap.tape.json')];
    const { status, stdout } = zygopod('check', demo('first-draft.tuning.json'), ...with_, '--json');
    expect(status).toBe(0);
    const { ok, snags } = JSON.parse(stdout) as { ok: boolean; snags: { id: string; time?: number; place?: object }[] };
    expect(ok).toBe(true);
    expect(snags.map(({ id }) => id)).toEqual(expect.arrayContaining(['sprint-on-empty', 'gap-too-narrow', 'off-screen']));
    expect(snags.find(({ id }) => id === 'off-screen')?.time).toBeGreaterThan(0);
    expect(zygopod('check', day).stdout).toMatch(/: good\n$/);
    expect(zygopod('check', demo('brisk-carrier.targets.json')).stdout).toMatch(/: good\n$/);
    expect(zygopod('check', day, '--tape', demo('boardwalk-lap.tape.json'))).toMatchObject({ status: 2 });
  });
});
