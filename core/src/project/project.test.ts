import { describe, expect, it } from 'vitest';
import { parseAny, readAny, readProject } from './project.ts';

const tuning = { format: 'zygopod/tuning', version: 2, name: 'Boots', pace: { walkSpeed: 120 } };
const ground = { format: 'zygopod/ground', version: 1, name: 'Yard', size: { width: 320, height: 96 }, start: { x: 9, y: 9 } };
const tape = { format: 'zygopod/tape', version: 2, name: 'Lap', hz: 60, ticks: 10, events: [] };
const targets = { format: 'zygopod/targets', version: 1, name: 'Brisk', targets: [{ metric: 'riseTime', max: 0.2 }] };
const project = {
  format: 'zygopod/project',
  version: 1,
  name: 'Game',
  tunings: [tuning],
  grounds: [ground],
  tapes: [tape],
  targets: [targets],
};

describe('a project', () => {
  it('is read with all of its documents', () => {
    const read = readProject({ ...project, unit: 'm', names: { 'pace.walkSpeed': 'walk_speed' } });
    expect(read).toMatchObject({ ok: true, value: { name: 'Game', unit: 'm', names: { 'pace.walkSpeed': 'walk_speed' } } });
    expect(
      read.ok && [read.value.tunings[0]?.name, read.value.grounds[0]?.name, read.value.tapes[0]?.name, read.value.targets[0]?.name],
    ).toEqual(['Boots', 'Yard', 'Lap', 'Brisk']);
  });

  it('may be empty, and reports unknown keys and newer versions', () => {
    expect(readProject({ format: 'zygopod/project', version: 1 })).toMatchObject({ ok: true, value: { name: 'Project', tunings: [] } });
    expect(readProject({ ...project, sprites: [] })).toMatchObject({ ok: false });
    const newer = readProject({ ...project, version: 2 });
    expect(!newer.ok && newer.faults[0]).toMatchObject({ path: 'version', found: '2' });
  });

  it('with a faulty document names its path; the others can be kept', () => {
    const broken = { ...project, tunings: [tuning, { ...tuning, name: 'Lame', pace: { walkSpeed: 'fast' } }] };
    const whole = readProject(broken);
    expect(!whole.ok && whole.faults[0]?.path).toBe('tunings.1.pace.walkSpeed');
    const read = readAny(broken);
    if (!read.ok) throw new Error('the rest is good');
    expect(read.value.members.map(({ name, reading }) => [name, reading.ok])).toEqual([
      ['Boots', true],
      ['Lame', false],
      ['Yard', true],
      ['Lap', true],
      ['Brisk', true],
    ]);
  });
});

describe('a file of any kind', () => {
  it('is known by its mark', () => {
    for (const [file, kind] of [
      [tuning, 'tuning'],
      [ground, 'ground'],
      [tape, 'tape'],
      [targets, 'targets'],
    ] as const) {
      const read = parseAny(JSON.stringify(file));
      expect(read.ok && read.value).toMatchObject({ project: null, members: [{ kind, path: '', name: file.name, reading: { ok: true } }] });
    }
  });

  it('is refused where it is none, by what it is', () => {
    for (const value of [
      null,
      7,
      [],
      {},
      { format: 7 },
      { format: 'zygopod/boat' },
      { format: 'tuning' },
      { format: 'zygopod/constructor' },
    ]) {
      const read = readAny(value);
      expect(!read.ok && read.faults[0]?.path, JSON.stringify(value)).toBe('format');
    }
    expect(parseAny('PK\u0003\u0004 zipped')).toMatchObject({ ok: false });
    expect(parseAny(`${'['.repeat(5000)}`)).toMatchObject({ ok: false });
  });
});
