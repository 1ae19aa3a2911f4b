import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { fakeServer, fakeStorage } from '../../testing/fakeServer.ts';
import { $project } from '../work/project.ts';
import { chooseTargets, fetchTargets, keepChoice, keepUnsaved, listSets, unsavedTargets } from './targets.ts';

let kept: Map<string, string>;
beforeEach(() => {
  kept = fakeStorage();
});
afterEach(() => {
  vi.unstubAllGlobals();
  $project.set(null);
});

const set = {
  format: 'zygopod/targets' as const,
  version: 1 as const,
  name: 'Brisk',
  note: '',
  targets: [{ metric: 'riseTime', min: 0.1, max: 0.2 }],
};

describe('bands that are not saved', () => {
  it('are there again for the tuning that they were changed for, until they are saved', () => {
    keepUnsaved('T', { set, id: 'S', head: 3 });
    expect(unsavedTargets('T')).toEqual({ set, id: 'S', head: 3 });
    expect(unsavedTargets('U')).toBeNull();
    keepUnsaved('T', { set, id: null, head: 0 });
    expect(unsavedTargets('T')).toEqual({ set, id: null, head: 0 });
    keepUnsaved('T', null);
    expect(unsavedTargets('T')).toBeNull();
  });

  it('are none where what is kept cannot be read', () => {
    keepUnsaved('T', { set, id: 'S', head: 3 });
    const [key] = kept.keys();
    for (const broken of ['{', 'null', '7', '{"head":1}', JSON.stringify({ set: { ...set, targets: 7 }, id: 'S', head: 1 })]) {
      kept.set(key as string, broken);
      expect(unsavedTargets('T'), broken).toBeNull();
    }
  });
});

describe('the set that a tuning is judged by', () => {
  const brisk = { id: 'brisk', demo: 'brisk-carrier.targets.json' };
  const sets = [{ id: 'newest', demo: null }, brisk, { id: 'oldest', demo: null }];

  it('is the one that was chosen for it, while that is there; else the demo’s first, else the oldest', () => {
    expect(chooseTargets(sets, 'T')).toBe('brisk');
    keepChoice('T', 'newest');
    expect(chooseTargets(sets, 'T')).toBe('newest');
    expect(chooseTargets(sets, 'U')).toBe('brisk');
    expect(chooseTargets([brisk], 'T')).toBe('brisk');
    expect(
      chooseTargets(
        [
          { id: 'a', demo: null },
          { id: 'b', demo: null },
        ],
        'T',
      ),
    ).toBe('b');
    expect(chooseTargets([], 'T')).toBeNull();
  });

  it('is searched in the page’s project, and in all if that has none', async () => {
    $project.set({ id: 'P', name: 'Game' });
    let own = [{ id: 'own', demo: null }];
    fakeServer(({ query }) => ({ body: { items: query['project'] === 'P' ? own : [brisk] } }));
    expect(await listSets()).toEqual([{ id: 'own', demo: null }]);
    own = [];
    expect(await listSets()).toEqual([brisk]);
    fakeServer(() => null);
    expect(await listSets()).toEqual([]);
  });

  it('is fetched with its revision, or it is said why not', async () => {
    const answers = [{ body: { file: set, head: 4 } }, { body: { file: { ...set, targets: [{ metric: 7 }] }, head: 4 } }, null];
    fakeServer(() => answers.shift() ?? null);
    expect(await fetchTargets('S')).toEqual({ set, id: 'S', head: 4 });
    expect(await fetchTargets('S')).toEqual({ why: expect.stringContaining('targets.0.metric') });
    expect(await fetchTargets('S')).toEqual({ why: 'The server cannot be reached.' });
  });
});
