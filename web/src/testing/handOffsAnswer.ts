import { languageIds } from '@zygopod/code/constants';
import { groundWith } from '@zygopod/core';
import { expect, it } from 'vitest';
import type { Described } from './described.ts';

/** Tests that hand-offs, code and checks are answered as they are described; with files that are good. */
export function handOffsAnswer(described: Described, { tuning, tape, targets }: Record<'tuning' | 'tape' | 'targets', object>): void {
  const ask = described.ask.bind(described);

  it('is what hand-offs are answered by: those of a tuning, newest first', async () => {
    const { value: created } = await ask('POST', '/{kind}', { kind: 'tunings' }, 201, { body: { file: tuning } });
    const of = { id: created['id'] as string, revision: 2, name: 'Brisk' };
    const handOff = {
      tuning: of,
      changedSince: false,
      to: 'c',
      units: 'tiles:32,frame:60,degree',
      label: 'build 88',
      values: { WALK_SPEED: 140, EVEN: true, POINTS: [[0, 1]], ENDS: ['stop'] },
    };
    expect((await ask('POST', '/handoffs', {}, 201, { body: handOff })).value).toMatchObject(handOff);
    await ask('POST', '/handoffs', {}, 201, { body: { ...handOff, label: 'build 89' } });
    await ask('POST', '/handoffs', {}, 404, { body: { ...handOff, tuning: { ...of, id: '00000000-0000-4000-8000-000000000000' } } });
    await ask('POST', '/handoffs', {}, 422, { body: { ...handOff, to: 'basic' } });
    await ask('POST', '/handoffs', {}, 422, { body: { ...handOff, units: 'miles' } });
    await ask('POST', '/handoffs', {}, 422, { body: { ...handOff, values: { WALK: { deep: 1 } } } });
    const { value } = await ask('GET', '/handoffs', {}, 200, { query: `?tuning=${of.id}` });
    expect((value['items'] as { label: string }[]).map(({ label }) => label)).toEqual(['build 89', 'build 88']);
    await ask('GET', '/handoffs', {}, 400);
    await ask('POST', '/handoffs', {}, 422, { body: { ...handOff, path: '../out.h' } });
  });

  it('is what hand-offs with a place in a project’s folder are answered by: the newest of each place', async () => {
    const { value: project } = await ask('POST', '/projects', {}, 201, { body: { name: 'Placed' } });
    const id = project['id'] as string;
    const { value: created } = await ask('POST', '/{kind}', { kind: 'tunings' }, 201, { body: { file: tuning }, query: `?project=${id}` });
    const handOff = {
      tuning: { id: created['id'], revision: 1, name: 'Described boots' },
      changedSince: false,
      to: 'lua',
      units: 'px,second,degree',
      label: '',
      values: {},
    };
    for (const more of [
      { path: 'a.lua', label: 'old' },
      { path: 'a.lua', label: 'new' },
      { path: 'b.lua', style: 'camelCase', all: true },
      {},
    ])
      await ask('POST', '/handoffs', {}, 201, { body: { ...handOff, ...more } });
    const { value } = await ask('GET', '/projects/{id}/handoffs', { id }, 200);
    expect(value['items']).toMatchObject([
      { path: 'a.lua', label: 'new' },
      { path: 'b.lua', style: 'camelCase', all: true },
    ]);
  });

  it('matches the answers for code and checks, for any language', async () => {
    for (const to of languageIds) {
      const { value } = await ask('POST', '/code', {}, 200, { body: { tuning, to } });
      const starts = (value['files'] as { text: string }[]).map(({ text }) => text.slice(0, 200));
      expect(starts).toEqual(
        ['The motion of', 'Walls for the motion of'].map((words) => expect.stringContaining(`${words} Described boots`)),
      );
    }
    await ask('POST', '/code', {}, 422, { body: { tuning, to: 'basic' } });
    await ask('POST', '/code', {}, 422, { body: { tuning: { ...tuning, pace: { walkSpeed: -1 } }, to: 'c' } });
    await ask('POST', '/code', {}, 422, { body: { to: 'c' } });
    const { value } = await ask('POST', '/checks', {}, 200, { body: { tuning, targets, tapes: [tape, tape] } });
    const paths = (value['files'] as { path: string }[]).map(({ path }) => path);
    expect(paths).toEqual(expect.arrayContaining(['goldens/described-hands.csv', 'goldens/described-hands-2.csv', 'check.rs', 'game.py']));
    await ask('POST', '/checks', {}, 200, { body: { tuning, targets: null, tapes: [] } });
    const lap = { ...targets, targets: [{ metric: 'lapTime', max: 9 }] };
    const ground = groundWith({
      name: 'Short',
      size: { width: 400, height: 300 },
      start: { x: 60, y: 150 },
      course: { gates: [{ from: [300, 100], to: [300, 200] }], laps: 1 },
    });
    for (const [wanted, holds] of [
      [lap, true],
      [targets, false],
    ] as const) {
      const { value } = await ask('POST', '/checks', {}, 200, { body: { tuning, targets: wanted, tapes: [], ground } });
      const files = new Map((value['files'] as { path: string; text: string }[]).map(({ path, text }) => [path, text]));
      expect(files.has('ground.ground.json')).toBe(holds);
      expect(files.get('README.md')?.includes('--ground ground.ground.json')).toBe(holds);
    }
    await ask('POST', '/checks', {}, 422, { body: { tuning, targets: null, tapes: [], ground: { ...ground, size: 7 } } });
    await ask('POST', '/checks', {}, 422, { body: { tuning, targets: null, tapes: [{ ...tape, events: 7 }] } });
    await ask('POST', '/checks', {}, 422, { body: { tuning, targets: { ...targets, targets: 7 }, tapes: [] } });
  });
}
