import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { root } from '../root.ts';

const folder = mkdtempSync(join(tmpdir(), 'zygopod-source-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => join(folder, name);
const run = (...args: string[]) => spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), ...args], { encoding: 'utf8' });

/** A game's source, with Windows line ends, a byte order mark and trailing blanks. */
const lua = [
  '\ufeff-- tiles, seconds; 16 px tiles',
  'player = {  ',
  'walk_speed = 3.2,',
  'sprint_speed = 5.6, -- dash',
  'accel = 40,',
  'radius = 0.4,\t',
  'max_stamina = 60,',
  'drain = 12, regen = 8,',
  'hp = 3, -- hearts',
  '}',
].join('\r\n');

describe('a game’s own file', () => {
  it('becomes a tuning, and gets back the numbers that were changed, and nothing else', () => {
    writeFileSync(at('player.lua'), lua);
    const pasted = run('import', at('player.lua'), '-o', at('player.tuning.json'));
    expect(pasted).toMatchObject({ status: 0, stderr: expect.stringContaining('units: tiles:16,second,degree') });
    const tuning = JSON.parse(readFileSync(at('player.tuning.json'), 'utf8'));
    expect(tuning).toMatchObject({ pace: { walkSpeed: 51.2, sprintSpeed: 89.6 }, body: { radius: 6.4 } });
    // Nothing changed, nothing is written.
    expect(run('export', at('player.tuning.json'), '--into', at('player.lua'))).toMatchObject({ status: 0 });
    expect(readFileSync(at('player.lua'), 'utf8')).toBe(lua);

    tuning.pace.sprintSpeed = 94.4;
    tuning.stamina.drain = 10;
    writeFileSync(at('player.tuning.json'), JSON.stringify(tuning));
    const dry = run('export', at('player.tuning.json'), '--into', at('player.lua'), '--dry-run');
    expect(dry).toMatchObject({ status: 0, stderr: expect.stringContaining('line 4: player.sprint_speed: 5.6 → 5.9') });
    expect(readFileSync(at('player.lua'), 'utf8')).toBe(lua);
    expect(run('export', at('player.tuning.json'), '--into', at('player.lua')).status).toBe(0);
    expect(readFileSync(at('player.lua'), 'utf8')).toBe(lua.replace('5.6', '5.9').replace('drain = 12', 'drain = 10'));
  });

  it('lists unplaced numbers with exit 1, and writes guesses only on request', () => {
    writeFileSync(at('hero.py'), 'SPEED = 120\nACCEL = 900\n');
    writeFileSync(
      at('hero.tuning.json'),
      JSON.stringify({
        format: 'zygopod/tuning',
        version: 2,
        name: 'Hero',
        pace: { walkSpeed: 130 },
        ramp: { accelerate: 950, brake: 2000 },
      }),
    );
    const careful = run('export', at('hero.tuning.json'), '--into', at('hero.py'), '--units', 'px');
    expect(careful.status).toBe(1);
    expect(careful.stderr).toContain('ramp.brake (Brake) has no place there: 1800 → 2000');
    expect(readFileSync(at('hero.py'), 'utf8')).toBe('SPEED = 120\nACCEL = 950\n');
    run('export', at('hero.tuning.json'), '--into', at('hero.py'), '--units', 'px', '--guesses');
    expect(readFileSync(at('hero.py'), 'utf8')).toBe('SPEED = 130\nACCEL = 950\n');
    // A name set by the user is not taken from the source.
    writeFileSync(at('hero.names.json'), JSON.stringify({ 'ramp.brake': 'STOP' }));
    writeFileSync(at('hero.py'), 'SPEED = 120\nSTOP = 1800\n');
    run('export', at('hero.tuning.json'), '--into', at('hero.py'), '--units', 'px', '--names', at('hero.names.json'));
    expect(readFileSync(at('hero.py'), 'utf8')).toBe('SPEED = 120\nSTOP = 2000\n');
  });

  it('asks for units if there is no evidence for them', () => {
    writeFileSync(at('hero.cfg'), 'walk_speed = 3.5\nradius = 0.4\n');
    expect(run('import', at('hero.cfg'))).toMatchObject({
      status: 1,
      stdout: '',
      stderr: expect.stringContaining('the units are uncertain'),
    });
    expect(JSON.parse(run('import', at('hero.cfg'), '--units', 'tiles:20').stdout)).toMatchObject({
      pace: { walkSpeed: 70 },
      body: { radius: 8 },
    });
  });

  it('keeps its rights, its bytes that aren’t UTF-8, and the link that leads to it', () => {
    const bytes = Buffer.from('walk_speed = 120 # fu\xdfg\xe4nger\nradius = 12\n', 'latin1');
    writeFileSync(at('old.rb'), bytes, { mode: 0o640 });
    symlinkSync(at('old.rb'), at('link.rb'));
    writeFileSync(at('old.tuning.json'), JSON.stringify({ format: 'zygopod/tuning', version: 2, name: 'Old', pace: { walkSpeed: 125 } }));
    expect(run('export', at('old.tuning.json'), '--into', at('link.rb')).status).toBe(0);
    expect(readFileSync(at('old.rb')).equals(Buffer.from(bytes.toString('latin1').replace('120', '125'), 'latin1'))).toBe(true);
    expect(statSync(at('old.rb')).mode & 0o777).toBe(0o640);
    expect(run('export', at('old.tuning.json'), '--into', at('none.rb')).status).toBe(2);
  });
});
