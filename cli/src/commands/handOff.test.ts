import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root } from '../root.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-hand-off-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

const at = (name: string) => join(folder, name);
const demo = (name: string) => join(root, 'demo', name);
const run = (...args: string[]) => spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), ...args], { encoding: 'utf8' });
const boots = demo('carrier-day-boots.tuning.json');

describe('export', () => {
  it('writes constants that compilers and interpreters take, with the numbers of the tuning', () => {
    const c = run('export', boots, '--to', 'c');
    expect([c.status, c.stderr]).toEqual([0, '']);
    writeFileSync(at('boots.h'), c.stdout);
    writeFileSync(at('boots.py'), run('export', boots, '--to', 'python').stdout);
    const python = spawnSync(
      'python3',
      ['-c', `import sys; sys.path.insert(0, ${JSON.stringify(folder)}); import boots; print(boots.WALK_SPEED, boots.SPRINT_SPEED)`],
      { encoding: 'utf8' },
    );
    // Where there is no Python on the machine, nothing is said of it here.
    if (!python.error) expect(python.stdout.trim()).toBe('140.0 245.0');
    writeFileSync(
      at('main.c'),
      '#include <stdio.h>\n#include "boots.h"\nint main(void) { printf("%g %g\\n", WALK_SPEED, SPRINT_SPEED); return 0; }\n',
    );
    const gcc = spawnSync('gcc', ['-Wall', '-Wextra', '-Werror', at('main.c'), '-o', at('main')], { encoding: 'utf8' });
    if (!gcc.error) {
      expect(gcc.stderr).toBe('');
      expect(spawnSync(at('main'), { encoding: 'utf8' }).stdout.trim()).toBe('140 245');
    }
    expect(JSON.parse(run('export', boots, '--to', 'json').stdout)).toMatchObject({ walk_speed: 140, sprint_speed: 245 });
  });

  it('takes the game’s units and names, and says what cannot be', () => {
    writeFileSync(at('names.json'), JSON.stringify({ 'pace.walkSpeed': 'move_rate' }));
    const lua = run('export', boots, '--to', 'lua', '--units', 'tiles:28,frame:50', '--names', at('names.json'));
    expect(lua.stdout).toMatch(/move_rate += +0\.1, {2}-- tiles\/frame/);
    writeFileSync(at('bad.json'), JSON.stringify({ 'pace.walkSpeed': 'end' }));
    const bad = run('export', boots, '--to', 'lua', '--names', at('bad.json'));
    expect([bad.status, bad.stdout]).toEqual([1, '']);
    expect(bad.stderr).toContain('pace.walkSpeed: end is a reserved word of Lua');
    for (const [args, why] of [
      [['--to', 'basic'], '--to: found basic'],
      [['--to', 'c', '--units', 'miles'], '--units: found miles'],
      [['--to', 'c', '--case', 'Kebab'], '--case: found Kebab'],
      [['--to', 'c', '--names', boots], 'there is no such parameter'],
    ] as const) {
      const misuse = run('export', boots, ...args);
      expect([misuse.status, misuse.stderr]).toEqual([2, expect.stringContaining(why)]);
    }
  });

  it('writes over what it has written, and shows what was changed by hand', () => {
    const out = at('motion.h');
    expect(run('export', boots, '--to', 'c', '-o', out).status).toBe(0);
    const slow = at('slow.tuning.json');
    writeFileSync(slow, readFileSync(boots, 'utf8').replace('"walkSpeed": 140', '"walkSpeed": 150'));
    const next = run('export', slow, '--to', 'c', '-o', out);
    expect(next.status).toBe(0);
    expect(next.stderr).toMatch(/- #define WALK_SPEED +140\.0/);
    expect(next.stderr).toMatch(/\+ #define WALK_SPEED +150\.0/);
    writeFileSync(out, readFileSync(out, 'utf8').replace('150.0', '151.0'));
    const refused = run('export', boots, '--to', 'c', '-o', out);
    expect(refused.status).toBe(1);
    expect(refused.stderr).toContain('was changed by hand');
    expect(refused.stderr).toMatch(/- #define WALK_SPEED +151\.0/);
    expect(readFileSync(out, 'utf8')).toContain('151.0');
    expect(run('export', boots, '--to', 'c', '-o', out, '--force').status).toBe(0);
    expect(readFileSync(out, 'utf8')).not.toContain('151.0');
  });
});

describe('export --code', () => {
  it('writes the motion in each language, and says what no file can hold', () => {
    for (const [to, words] of [
      ['ts', 'export function motionTick'],
      ['c', 'void motion_tick(Body *b, Hands *h, Contact contact)'],
      ['csharp', 'public static void Tick'],
      ['python', 'def motion_tick(b, h, contact=motion_free):'],
      ['lua', 'function M.tick(b, h, contact)'],
      ['rust', 'pub fn motion_tick'],
    ] as const) {
      const { status, stdout } = run('export', boots, '--to', to, '--code');
      expect([status, stdout.includes(words)], to).toEqual([0, true]);
    }
    const ferry = run('export', demo('ferry-hand.tuning.json'), '--to', 'c', '--code');
    expect([ferry.status, ferry.stdout.includes('Hands *h, Contact contact, Clear is_clear, Plan plan)')]).toEqual([0, true]);
    // The second file holds the body among walls, where it meets any.
    const walls = run('export', boots, '--to', 'c', '--code', '--walls');
    expect([walls.status, walls.stdout.includes('void walls_contact(Walls *w, Body *b)')]).toEqual([0, true]);
    const clerk = run('export', demo('sorting-clerk.tuning.json'), '--to', 'c', '--walls');
    expect([clerk.status, clerk.stdout]).toEqual([1, '']);
    expect(clerk.stderr).toContain('meets none');
    expect(run('export', boots, '--to', 'csv', '--code').status).toBe(2);
  });
});

describe('import', () => {
  it('brings back what was handed over, in its units and by its names', () => {
    for (const [to, units] of [
      ['c', 'px,second,degree'],
      ['python', 'tiles:32,frame:60,degree'],
      ['rust', 'm:50,second'],
    ] as const) {
      const file = at(`back.${to}`);
      writeFileSync(file, run('export', boots, '--to', to, '--units', units).stdout);
      const back = JSON.parse(run('import', file, '--units', units, '--name', 'Back').stdout);
      const was = JSON.parse(readFileSync(boots, 'utf8'));
      expect(back.name).toBe('Back');
      expect(back.stamina?.drain ?? 20, to).toBeCloseTo(was.stamina.drain ?? 20, 5);
      expect(back.ramp?.accelerate ?? 900, to).toBeCloseTo(was.ramp?.accelerate ?? 900, 3);
    }
  });

  it('reports unknown numbers, and accepts guesses only on request', () => {
    writeFileSync(at('game.lua'), 'local speed = 90\nlocal mana = 3\nlocal radius = 8');
    const careful = run('import', at('game.lua'));
    expect(JSON.parse(careful.stdout)).toMatchObject({ body: { radius: 8 } });
    expect(JSON.parse(careful.stdout).pace).toBeUndefined();
    expect(careful.stderr).toContain('line 1: speed is skipped: a guess');
    expect(careful.stderr).toContain('line 2: mana is skipped');
    expect(JSON.parse(run('import', at('game.lua'), '--guess').stdout)).toMatchObject({ pace: { walkSpeed: 90 } });
    writeFileSync(at('none.lua'), 'return 1');
    expect(run('import', at('none.lua')).status).toBe(1);
  });
});

describe('verify', () => {
  const tape = demo('out-and-back.tape.json');
  const ground = demo('boardwalk.ground.json');
  it('says where a game parts from the model, by how much and by which stage', () => {
    const csv = run('sim', '--tuning', boots, '--ground', ground, '--tape', tape).stdout;
    writeFileSync(at('good.csv'), csv);
    const args = ['--tape', tape, '--tuning', boots, '--ground', ground];
    expect(run('verify', '--trace', at('good.csv'), ...args)).toMatchObject({
      status: 0,
      stdout: expect.stringContaining('rows match the model'),
    });
    writeFileSync(at('slow.tuning.json'), readFileSync(boots, 'utf8').replace('"walkSpeed": 140', '"walkSpeed": 139'));
    writeFileSync(at('off.csv'), run('sim', '--tuning', at('slow.tuning.json'), '--ground', ground, '--tape', tape).stdout);
    const off = run('verify', '--trace', at('off.csv'), ...args);
    expect(off.status).toBe(1);
    expect(off.stdout).toMatch(/^first at tick \d+ .*it looks like velocity\n/);
    expect(off.stdout).toContain('most at tick');
    expect(JSON.parse(run('verify', '--trace', at('off.csv'), '--json', ...args).stdout)).toMatchObject({ first: { stage: 'velocity' } });
    expect(run('verify', '--trace', boots, ...args)).toMatchObject({ status: 2, stderr: expect.stringContaining('expected some of') });
    expect(run('verify', '--trace', at('good.csv'), '--slack', 'x', ...args).status).toBe(2);
  });
});
