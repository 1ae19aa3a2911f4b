import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '..');

/** Source files of a folder, without tests. */
function sourcesOf(folder: string): string[] {
  return readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter(
      (path) => /\.tsx?$/.test(path) && !/\.(test|integration|spec)\.tsx?$/.test(path) && !/(^|\/)(testing|node_modules|dist)\//.test(path),
    )
    .map((path) => join(folder, path));
}

/** What a file imports of this repository, as paths from its root. */
function importsOf(file: string): string[] {
  const text = readFileSync(join(root, file), 'utf8');
  return [...text.matchAll(/(?:from|import) '(\.\.?\/[^']+)'/g)].map((match) =>
    relative(root, join(root, dirname(file), match[1] as string)),
  );
}

/** The first round trip among things that need each other; null where there is none. */
function circleIn(needs: ReadonlyMap<string, ReadonlySet<string>>): string[] | null {
  const done = new Set<string>();
  const walk = (at: string, way: readonly string[]): string[] | null => {
    if (way.includes(at)) return [...way.slice(way.indexOf(at)), at];
    if (done.has(at)) return null;
    for (const next of needs.get(at) ?? []) {
      const circle = walk(next, [...way, at]);
      if (circle) return circle;
    }
    done.add(at);
    return null;
  };
  for (const start of needs.keys()) {
    const circle = walk(start, []);
    if (circle) return circle;
  }
  return null;
}

/** The rooms below a folder with the rooms that they need. */
function roomsOf(folder: string): Map<string, Set<string>> {
  const roomOf = (file: string) => relative(folder, file).split(sep)[0] as string;
  const needs = new Map<string, Set<string>>();
  for (const file of sourcesOf(folder))
    for (const target of importsOf(file)) {
      if (!target.startsWith(folder + sep) || roomOf(target) === roomOf(file)) continue;
      needs.set(roomOf(file), (needs.get(roomOf(file)) ?? new Set()).add(roomOf(target)));
    }
  return needs;
}

describe('imports point one way', () => {
  it.each(['core/src', 'code/src', 'web/src/islands', 'web/src/server', 'cli/src'])('among the rooms of %s', (folder) => {
    expect(circleIn(roomsOf(folder))).toBeNull();
  });

  it('among all files', () => {
    const files = ['core/src', 'code/src', 'web/src', 'cli/src'].flatMap(sourcesOf);
    expect(circleIn(new Map(files.map((file) => [file, new Set(importsOf(file))])))).toBeNull();
  });

  it('from the screens to the rooms that all of them use, and never from one screen to another', () => {
    const list = readFileSync(join(root, 'web/src/islands/screens.ts'), 'utf8');
    const screens = [...list.matchAll(/import\('\.\/([^/]+)\//g)].map((match) => match[1] as string);
    expect(screens).toContain('bench');
    for (const [room, needs] of roomsOf('web/src/islands'))
      for (const screen of screens) expect(needs.has(screen), `${room} needs ${screen}`).toBe(false);
  });

  it('and nothing needs the browser tests', () => {
    for (const file of ['core/src', 'code/src', 'web/src', 'cli/src'].flatMap(sourcesOf))
      for (const target of importsOf(file)) expect(target, file).not.toMatch(/^(e2e|testing)\//);
  });

  it('a circle is found where there is one', () => {
    const needs = (entries: [string, string[]][]) => new Map(entries.map(([from, to]) => [from, new Set(to)] as const));
    expect(
      circleIn(
        needs([
          ['a', ['b']],
          ['b', ['c']],
          ['c', ['b']],
        ]),
      ),
    ).toEqual(['b', 'c', 'b']);
    expect(
      circleIn(
        needs([
          ['a', ['b', 'c']],
          ['b', ['c']],
        ]),
      ),
    ).toBeNull();
  });
});
