import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newTuning, plainUnits, readTuning, type Tuning } from '@zygopod/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nastyNames } from '../../core/src/testing/nastyNames.ts';
import { handOver } from './constants/handOff.ts';
import { type LanguageId, languageIds } from './languages/list.ts';
import { printerOf } from './languages/registry.ts';
import { motionOnce, wallsOnce } from './testing/once.ts';
import { proofs } from './testing/proofs.ts';

/** The generated code doesn't depend on the tuning's name: each language's own parser compares it without comments. */

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-names-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

function tuningOf(name: string): Tuning | null {
  const read = readTuning(newTuning(name));
  return read.ok ? read.value : null;
}

const plain = tuningOf('Boots') as Tuning;
// A share of them: each is printed, and parsed, eighteen times.
const names = nastyNames(40).filter((name, i) => i % 9 === 0 && tuningOf(name) !== null);

/** All that is generated of a tuning of this name in a language, file by file. */
function generated(name: string, language: LanguageId): string[] {
  const printer = printerOf(language);
  const { text } = handOver({ ...plain, file: { ...plain.file, name } }, 'rev 1', {
    to: language,
    units: plainUnits,
    names: {},
    style: null,
    all: true,
  });
  expect(text, language).not.toBe('');
  return [printer.file({ ...motionOnce(plain), tuning: name }), printer.walls({ ...wallsOnce(plain), tuning: name }), text];
}

/** Files of one name after the other; those of the plain name come first. */
const allFiles = (language: LanguageId): string[] => ['Boots', ...names].flatMap((name) => generated(name, language));

describe('the code of a tuning with any name is the same', () => {
  it.each(languageIds)('in %s', (language) => {
    const bare = proofs[language].withoutComments(allFiles(language), folder);
    expect(bare).toHaveLength(3 * (names.length + 1));
    // Each file is what the one of its kind of the plain name is.
    for (const [i, one] of bare.entries()) expect(one, names[Math.floor(i / 3) - 1]).toBe(bare[i % 3]);
  });
});

it('a class of C# is not named as one of its members', () => {
  const named = { ...plain, file: { ...plain.file, name: 'Walk speed' } };
  const { text } = handOver(named, 'rev 1', { to: 'csharp', units: plainUnits, names: {}, style: null, all: true });
  expect(text).toContain('public static class WalkSpeedNumbers');
});
