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

/** A file's imports from this repository, as paths from its root. */
function importsOf(file: string): string[] {
  const text = readFileSync(join(root, file), 'utf8');
  return [...text.matchAll(/(?:from|import) '(\.\.?\/[^']+)'/g)].map((match) =>
    relative(root, join(root, dirname(file), match[1] as string)),
  );
}

/** The first round trip among things that need each other; null if there is none. */
function circleIn(needs: ReadonlyMap<string, ReadonlySet<string>>): string[] | null {
  const done = new Set<string>();
  const walk = (at: string, path: readonly string[]): string[] | null => {
    if (path.includes(at)) return [...path.slice(path.indexOf(at)), at];
    if (done.has(at)) return null;
    for (const next of needs.get(at) ?? []) {
      const circle = walk(next, [...path, at]);
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

/** The rooms of the core, lowest first, each with the rooms that it may import from. */
const layers: Readonly<Record<string, readonly string[]>> = {
  math: [],
  document: [],
  tuning: ['document'],
  ground: ['math', 'document'],
  tape: ['document', 'tuning'],
  collision: ['math', 'tuning', 'ground'],
  route: ['math', 'tuning', 'ground', 'collision'],
  motion: ['math', 'tuning', 'ground', 'tape', 'collision', 'route'],
  replay: ['tuning', 'ground', 'tape', 'motion'],
  course: ['math', 'tuning', 'ground', 'tape', 'collision', 'route', 'motion'],
  pilot: ['math', 'tuning', 'ground', 'tape', 'collision', 'route', 'motion', 'course'],
  measure: ['math', 'tuning', 'ground', 'tape', 'route', 'motion', 'replay', 'course', 'pilot'],
  targets: ['document', 'measure'],
  sweeps: ['document', 'tuning'],
  project: ['math', 'document', 'tuning', 'ground', 'tape', 'targets', 'sweeps'],
  formats: ['math', 'document', 'tuning', 'ground', 'tape', 'motion', 'measure', 'targets', 'project'],
  formulas: ['tuning', 'formats'],
  search: ['math', 'tuning', 'ground', 'tape', 'measure', 'targets', 'sweeps', 'formats'],
  link: ['tape'],
  game: ['math', 'tuning', 'ground', 'tape', 'motion'],
};

/** The files of a tick's stage: it reads the other stages' results from the body, and imports none of them. */
const stages: Readonly<Record<string, readonly string[]>> = {
  clock: [],
  intent: ['steering'],
  step: [],
  route: ['routePlanning', 'routeFollowing'],
  gait: [],
  velocity: ['steering', 'ramp'],
  contact: ['contactPlan', 'contactSliding'],
  bounds: [],
  facing: [],
  camera: [],
};
/** Imports forbidden to all parts of a stage, besides the other stages. */
const above = ['tick', 'world', 'plan'];

const nameOf = (path: string): string => path.slice(path.lastIndexOf(sep) + 1).replace(/\.ts$/, '');

describe('imports point in one direction', () => {
  it.each(['core/src', 'code/src', 'web/src/islands', 'web/src/server', 'cli/src'])('among the rooms of %s', (folder) => {
    expect(circleIn(roomsOf(folder))).toBeNull();
  });

  it('among all files', () => {
    const files = ['core/src', 'code/src', 'web/src', 'cli/src'].flatMap(sourcesOf);
    expect(circleIn(new Map(files.map((file) => [file, new Set(importsOf(file))])))).toBeNull();
  });

  it('in the core from a room to those below it', () => {
    const core = join('core', 'src');
    const known = new Map([...roomsOf(core)].filter(([room]) => room !== 'testing' && !room.endsWith('.ts')));
    const wrong = [...known].flatMap(([room, needs]) =>
      [...needs].filter((other) => !layers[room]?.includes(other)).map((other) => [room, other]),
    );
    expect(wrong).toEqual([]);
    expect(known.get('motion')).toContain('collision');
    const order = Object.keys(layers);
    for (const [room, below] of Object.entries(layers))
      for (const other of below) expect(order.indexOf(other), `${room} needs ${other}`).toBeLessThan(order.indexOf(room));
  });

  it('from no stage of the tick to another one, nor to what drives them', () => {
    const motion = join('core', 'src', 'motion');
    const parts = Object.entries(stages).flatMap(([stage, own]) => [stage, ...own]);
    const files = sourcesOf(motion).filter((file) => parts.includes(nameOf(file)));
    expect(files).toHaveLength(new Set(parts).size);
    const barred = [...above, ...Object.keys(stages)].map((name) => join(motion, `${name}.ts`));
    for (const file of files) for (const target of importsOf(file)) expect(barred, file).not.toContain(target);
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
