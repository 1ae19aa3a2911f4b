import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize, relative, sep } from 'node:path';
import { describe, expect, it } from 'vitest';

const source = normalize(join(import.meta.dirname, '..'));

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
  measure: ['math', 'tuning', 'ground', 'tape', 'route', 'motion', 'replay'],
  targets: ['document', 'measure'],
  project: ['document', 'tuning', 'ground', 'tape', 'targets'],
  formats: ['math', 'document', 'tuning', 'ground', 'tape', 'motion', 'measure', 'targets', 'project'],
  formulas: ['tuning', 'formats'],
};

/** What a stage of the tick is made of: it reads what the other stages left in the body, and imports none of them. */
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
/** What no part of a stage may import, besides the other stages. */
const above = ['tick', 'world', 'plan'];

interface Import {
  file: string;
  target: string;
}

/** The relative imports of every file of the core that is not a test, as paths below `core/src`. */
function imports(): Import[] {
  const files = readdirSync(source, { recursive: true, encoding: 'utf8' }).filter(
    (file) => file.endsWith('.ts') && !file.endsWith('.test.ts') && !file.endsWith('.d.ts'),
  );
  return files.flatMap((file) => {
    const text = readFileSync(join(source, file), 'utf8');
    return [...text.matchAll(/\b(?:from|import\()\s*'(\.[^']+)'/g)].map(([, target]) => ({
      file,
      target: relative(source, join(source, dirname(file), target as string)),
    }));
  });
}

const roomOf = (path: string): string => path.split(sep)[0] as string;
const nameOf = (path: string): string => path.slice(path.lastIndexOf(sep) + 1).replace(/\.ts$/, '');

describe('imports within the core', () => {
  const all = imports();

  it('are found', () => {
    expect(all.length).toBeGreaterThan(500);
    expect(all).toContainEqual({ file: join('motion', 'standalone.ts'), target: join('ground', 'ground.ts') });
  });

  it('go from a room to the rooms below it only', () => {
    const known = all.filter(({ file }) => file.includes(sep) && roomOf(file) !== 'testing');
    expect([...new Set(known.map(({ file }) => roomOf(file)))].filter((room) => !Object.hasOwn(layers, room))).toEqual([]);
    const wrong = known.filter(({ file, target }) => {
      const [from, to] = [roomOf(file), roomOf(target)];
      return from !== to && !(layers[from] ?? []).includes(to);
    });
    expect(wrong).toEqual([]);
  });

  it('do not go round in a circle', () => {
    const order = Object.keys(layers);
    const upward = Object.entries(layers).flatMap(([room, below]) => below.filter((other) => order.indexOf(other) >= order.indexOf(room)));
    expect(upward).toEqual([]);
  });

  it('let no stage of the tick know another one, nor what drives them', () => {
    const parts = Object.entries(stages).flatMap(([stage, own]) => [stage, ...own]);
    const wrong = all.filter(({ file, target }) => {
      if (roomOf(file) !== 'motion' || !parts.includes(nameOf(file)) || roomOf(target) !== 'motion') return false;
      return above.includes(nameOf(target)) || Object.hasOwn(stages, nameOf(target));
    });
    // The parts of a stage may be imported by the stage that is made of them; the stage itself by none.
    expect(wrong).toEqual([]);
  });
});
