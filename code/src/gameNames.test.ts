import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newTuning, plainUnits, readTuning, specs, type Tuning } from '@zygopod/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sequence } from '../../core/src/testing/sequence.ts';
import { handOver } from './constants/handOff.ts';
import { languageIds } from './languages/list.ts';
import { proofs } from './testing/proofs.ts';

/** Whatever names a game gives its numbers: the language can read the hand-off, and invalid names are reported before. */

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-game-names-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

const read = readTuning(newTuning('Boots'));
const tuning = (read.ok ? read.value : null) as Tuning;

const odd = (
  'vitesse_été скорость 速度 ﬁn Å Ångström naïve_speed main NULL EOF errno _Walk __walk 1walk walk-speed a$b $walk self None True nil undefined NaN eval ' +
  'async await gen dyn match end local class def fn let enum int double bool true false null this base object event ª½ x² ٣ speed٣ _ __ Self crate assert printf ' +
  'stdin INFINITY arguments interface package goto continue repeat until elseif lambda nonlocal string decimal var dynamic record init field value'
).split(' ');
const letters = 'abcxyzABCXYZ_0189éßñøжλ速度ªﬁ$-. \u0301';

/** 500 names: words of languages, of other scripts, and of letters put together at random. */
function names(): string[] {
  const next = sequence(500);
  const pick = () => letters[Math.floor(next() * letters.length)] as string;
  const names = Array.from({ length: 500 - odd.length }, (_, i) => {
    const name = Array.from({ length: 1 + Math.floor(next() * 8) }, pick).join('');
    // Half of them are plain enough for every language.
    return i % 2 === 0 ? name : `w${name.replace(/[^A-Za-z0-9_]/g, '')}_${i}`;
  });
  return [...odd, ...names];
}

const paths = [...specs].filter(([, { kind }]) => kind === 'number').map(([path]) => path);

/** Files in which parameters bear the names, each once, and how many names could be handed over. */
function filesOf(to: string): { files: string[]; taken: string[] } {
  const files: string[] = [];
  const taken: string[] = [];
  const all = [...new Set(names())];
  for (let from = 0; from < all.length; from += paths.length) {
    const given = Object.fromEntries(all.slice(from, from + paths.length).map((name, i) => [paths[i] as string, name]));
    const hand = (own: Record<string, string>) => handOver(tuning, 'rev 1', { to, units: plainUnits, names: own, style: null, all: true });
    const faulty = new Set(hand(given).faults.map(({ path }) => path));
    const good = Object.fromEntries(Object.entries(given).filter(([path]) => !faulty.has(path)));
    const { text, faults } = hand(good);
    expect(faults, to).toEqual([]);
    files.push(text);
    taken.push(...Object.values(good));
  }
  return { files, taken };
}

describe('numbers under 500 names', () => {
  it.each(languageIds)('are taken by the tool of %s itself', (to) => {
    const { files, taken } = filesOf(to);
    expect(taken.length).toBeGreaterThan(200);
    expect(proofs[to].faults?.(files, folder) ?? []).toEqual([]);
  });

  it('are taken by JSON, and by tables', () => {
    for (const text of filesOf('json').files) JSON.parse(text);
    expect(filesOf('csv').taken.length).toBeGreaterThan(200);
  });

  it('that the language reserves are reported before anything is written', () => {
    const refused = (to: string, name: string) =>
      handOver(tuning, 'rev 1', { to, units: plainUnits, names: { 'pace.walkSpeed': name }, style: null, all: true });
    for (const to of languageIds) {
      for (const name of proofs[to].names.refused) {
        const { text, faults } = refused(to, name);
        expect([text, faults.map(({ path }) => path)], `${name} in ${to}`).toEqual(['', ['pace.walkSpeed']]);
      }
      // What a language takes is not refused.
      for (const name of proofs[to].names.taken) expect(refused(to, name).faults, `${name} in ${to}`).toEqual([]);
    }
    expect(refused('json', 'a b').faults).toEqual([]);
  });
});
