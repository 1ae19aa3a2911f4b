import { beforeEach, describe, expect, it, vi } from 'vitest';
import { keepUnsaved, unsavedTargets } from './targets.ts';

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  });
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
