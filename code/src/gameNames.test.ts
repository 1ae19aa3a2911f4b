import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { handOver, newTuning, plainUnits, readTuning, specs, type Tuning, writers } from '@zygopod/core';
import ts from 'typescript';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sequence } from '../../core/src/testing/sequence.ts';

/** Whatever a game calls its numbers: what is handed over can be read by the language, and what can't is told before. */

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
  const made = Array.from({ length: 500 - odd.length }, (_, i) => {
    const name = Array.from({ length: 1 + Math.floor(next() * 8) }, pick).join('');
    // Half of them are plain enough for every language.
    return i % 2 === 0 ? name : `w${name.replace(/[^A-Za-z0-9_]/g, '')}_${i}`;
  });
  return [...odd, ...made];
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

/** Runs a language's own tool on each file; what it has to say is a failure. */
function parsed(program: string, args: (path: string) => string[], files: readonly string[], extension: string): void {
  for (const [i, text] of files.entries()) {
    const path = join(folder, `n${i}.${extension}`);
    writeFileSync(path, text);
    const said = spawnSync(program, args(path), { encoding: 'utf8' });
    if (said.error) return;
    expect([said.status, said.stderr.slice(0, 800)], text.slice(0, 3000)).toEqual([0, '']);
  }
}

const includes =
  '#include <stdio.h>\n#include <stdlib.h>\n#include <stdbool.h>\n#include <stddef.h>\n#include <string.h>\n#include <errno.h>\n#include <assert.h>\n';

describe('numbers under 500 names', () => {
  it.each(writers.map(({ id }) => id))('are taken by the tool of %s itself', (to) => {
    const { files, taken } = filesOf(to);
    expect(taken.length).toBeGreaterThan(200);
    if (to === 'ts')
      for (const text of files) {
        const { diagnostics } = ts.transpileModule(text, {
          reportDiagnostics: true,
          compilerOptions: { target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.ES2022 },
        });
        expect(diagnostics?.map(({ messageText }) => messageText)).toEqual([]);
      }
    else if (to === 'python')
      parsed('python3', (path) => ['-c', 'import ast, sys; ast.parse(open(sys.argv[1], encoding="utf-8").read())', path], files, 'py');
    else if (to === 'lua') parsed('lua5.4', (path) => ['-e', `assert(loadfile(${JSON.stringify(path)}))`], files, 'lua');
    else if (to === 'c')
      parsed(
        'gcc',
        (path) => ['-std=c11', '-Wall', '-Werror', '-fsyntax-only', '-x', 'c', path],
        files.map((text) => `${includes}${text}\nint main(void) { return 0; }\n`),
        'c',
      );
    else if (to === 'rust')
      parsed(
        'rustc',
        (path) => ['--edition', '2021', '--crate-type', 'lib', '-A', 'warnings', '--emit', 'metadata', '-o', join(folder, 'n.rmeta'), path],
        files,
        'rs',
      );
    else if (to === 'json') for (const text of files) JSON.parse(text);
  });

  it('that mean something to the language itself are told before anything is written', () => {
    const refused = (to: string, name: string) =>
      handOver(tuning, 'rev 1', { to, units: plainUnits, names: { 'pace.walkSpeed': name }, style: null, all: true });
    for (const [to, words] of Object.entries({
      lua: ['vitesse_été', 'end', 'nil'],
      c: ['main', 'NULL', 'bool', '_Walk', '__x', 'été'],
      python: ['None', 'ﬁn', 'a-b'],
      ts: ['eval', 'undefined', '1a'],
      rust: ['crate', '_', 'dyn'],
      csharp: ['event', 'a$b'],
    }))
      for (const name of words) {
        const { text, faults } = refused(to, name);
        expect([text, faults.map(({ path }) => path)], `${name} in ${to}`).toEqual(['', ['pace.walkSpeed']]);
      }
    // What a language takes is not refused.
    for (const [to, name] of [
      ['python', 'été'],
      ['ts', '$walk'],
      ['rust', 'été'],
      ['csharp', 'скорость'],
      ['json', 'a b'],
      ['lua', 'été_'.replace('é', 'e').replace('é', 'e')],
    ] as const)
      expect(refused(to, name).faults, `${name} in ${to}`).toEqual([]);
  });
});
