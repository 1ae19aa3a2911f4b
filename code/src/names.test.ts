import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { handOver, newTuning, plainUnits, readTuning, type Tuning } from '@zygopod/core';
import ts from 'typescript';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nastyNames } from '../../core/src/testing/nastyNames.ts';
import { motionPrinters } from './motion.ts';
import { motionOnce, wallsOnce } from './proof/once.ts';

/** Whatever a tuning is called, the code that is generated of it is the same: each language's own parser is asked for it without comments. */

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
function generated(name: string, language: string, extension: string): string[] {
  const printer = motionPrinters().find(({ id }) => id === language);
  if (!printer) throw new Error(language);
  const { text } = handOver({ ...plain, file: { ...plain.file, name } }, 'rev 1', {
    to: language,
    units: plainUnits,
    names: {},
    style: null,
    all: true,
  });
  expect(text, extension).not.toBe('');
  return [printer.file({ ...motionOnce(plain), tuning: name }), printer.walls({ ...wallsOnce(plain), tuning: name }), text];
}

/** Runs a program that prints a line for each file that it is given: what the file is without its comments. */
function asked(program: string, args: string[], files: readonly string[], extension: string): string[] {
  const paths = files.map((text, i) => {
    const path = join(folder, `f${i}.${extension}`);
    writeFileSync(path, text);
    return path;
  });
  const said = spawnSync(program, [...args, ...paths], { encoding: 'utf8', maxBuffer: 1 << 28 });
  expect([said.status, said.stderr.slice(0, 500)]).toEqual([0, '']);
  return said.stdout.trim().split('\n');
}

/** Files of one name after the other; those of the plain name come first. */
function allFiles(language: string, extension: string): string[] {
  return ['Boots', ...names].flatMap((name) => generated(name, language, extension));
}

/** Each file is what the one of its kind of the plain name is. */
function areAlike(told: readonly string[]): void {
  expect(told).toHaveLength(3 * (names.length + 1));
  for (const [i, one] of told.entries()) expect(one, names[Math.floor(i / 3) - 1]).toBe(told[i % 3]);
}

const PYTHON = `
import ast, hashlib, sys
for path in sys.argv[1:]:
    tree = ast.parse(open(path, 'rb').read())
    for node in ast.walk(tree):
        body = getattr(node, 'body', None)
        if isinstance(body, list) and body and isinstance(body[0], ast.Expr) and isinstance(body[0].value, ast.Constant):
            body[0].value.value = ''
    print(hashlib.sha256(ast.dump(tree).encode()).hexdigest())
`;

const LUA = `
for _, path in ipairs(arg) do
  local bytes = string.dump(assert(loadfile(path)), true)
  local sum = 0
  for i = 1, #bytes do sum = (sum * 31 + bytes:byte(i)) % 2147483647 end
  print(#bytes .. " " .. sum)
end
`;

/** Code of a language with braces without its comments: those from // to the end of the line, and between slashes and stars. */
const withoutComments = (text: string) =>
  text
    .replace(/\/\*[\s\S]*?\*\/|\/\/[^\n\r\u0085\u2028\u2029]*|"(?:[^"\\]|\\.)*"/g, (piece) => (piece.startsWith('"') ? piece : ' '))
    .replace(/\s+/g, ' ');

describe('the code of a tuning with any name is the same', () => {
  it('in TypeScript', () => {
    const parsed = allFiles('ts', 'ts').map((text) => {
      const { outputText, diagnostics } = ts.transpileModule(text, {
        reportDiagnostics: true,
        compilerOptions: { removeComments: true, target: ts.ScriptTarget.ESNext },
      });
      expect(diagnostics).toEqual([]);
      return outputText;
    });
    areAlike(parsed);
  });

  it('in Python', () => areAlike(asked('python3', ['-c', PYTHON], allFiles('python', 'py'), 'py')));

  it('in Lua', () => {
    writeFileSync(join(folder, 'dump.lua'), LUA);
    areAlike(asked('lua5.4', [join(folder, 'dump.lua')], allFiles('lua', 'lua'), 'lua'));
  });

  it('in C', () => {
    const compiler = 'gcc';
    const files = allFiles('c', 'h');
    const paths = files.map((text, i) => {
      const path = join(folder, `c${i}.c`);
      // The guard is of the tuning's name.
      writeFileSync(path, text.replace(/\b[A-Z][A-Za-z0-9_]*_H\b/g, 'GUARD_H'));
      return path;
    });
    const stripped = paths.map((path) => {
      const said = spawnSync(compiler, ['-fpreprocessed', '-dD', '-E', '-P', '-Werror', '-Wall', path], { encoding: 'utf8' });
      expect([said.status, said.stderr]).toEqual([0, '']);
      return said.stdout;
    });
    areAlike(stripped);
    const guards = files.flatMap((text) => [...text.matchAll(/^#(?:ifndef|define) (\S+_H)$/gm)].map((match) => match[1]));
    for (const guard of guards) expect(guard).toMatch(/^[A-Z][A-Z0-9_]*$/);
  });

  it('in C#', () => {
    const bare = allFiles('csharp', 'cs').map(withoutComments);
    for (const text of bare) expect(text.replace(/public static class (\w+)/, '')).not.toMatch(/[^ -~]/);
    areAlike(bare.map((text) => text.replace(/public static class [A-Za-z]\w*/, 'public static class Name')));
  });

  it('in Rust', () => areAlike(allFiles('rust', 'rs').map(withoutComments)));
});

it('a class of C# is not named as one of its members', () => {
  const named = { ...plain, file: { ...plain.file, name: 'Walk speed' } };
  const { text } = handOver(named, 'rev 1', { to: 'csharp', units: plainUnits, names: {}, style: null, all: true });
  expect(text).toContain('public static class WalkSpeedNumbers');
});
