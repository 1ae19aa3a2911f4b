import { describe, expect, it } from 'vitest';
import { markOf } from '../document/document.ts';
import { newGround } from '../ground/ground.ts';
import { tapeOf } from '../tape/tape.ts';
import { newTuning, withValue } from '../tuning/tuning.ts';
import { collectionOf, collections, type DocumentKind, documentKinds, fileName, kindIn, kindMarked, kindNames } from './kinds.ts';
import { newestVersions, parseAny, readProject } from './project.ts';
import { documentText } from './text.ts';

/** A document of each kind: a kind without one does not compile. */
const samples: Readonly<Record<DocumentKind, object>> = {
  tuning: withValue(newTuning('Day boots'), 'pace.walkSpeed', 133),
  ground: newGround('Yard'),
  tape: tapeOf({ name: 'Lap', ground: 'Yard', scheme: 'steer', hz: 60, ticks: 90, events: [{ at: 3, press: 'right' }] }),
  targets: { format: 'zygopod/targets', version: 1, name: 'Brisk', note: '', targets: [{ metric: 'riseTime', max: 0.2 }] },
  sweep: {
    format: 'zygopod/sweep',
    version: 1,
    name: 'Stops',
    note: '',
    tuning: { name: 'Day boots', revision: 3 },
    over: ['pace.walkSpeed=60:320:40', 'ramp.decelerate=300:4800:30:log'],
    metrics: ['stopDistance'],
  },
};

describe('the kinds of document', () => {
  it('have collections, marks and endings of their own', () => {
    const rows = Object.values(documentKinds);
    for (const of of [collections, rows.map(({ format }) => format.format), rows.map(({ suffix }) => suffix)])
      expect(new Set(of).size).toBe(kindNames.length);
    for (const kind of kindNames) expect(kindIn(collectionOf(kind))).toBe(kind);
    expect(kindMarked('zygopod/project')).toBeUndefined();
    expect(kindMarked('toString')).toBeUndefined();
  });

  it.each(kindNames)('%s is read, named, written and read again', (kind) => {
    const { read, format, suffix } = documentKinds[kind];
    const first = read(samples[kind]);
    if (!first.ok) throw new Error(JSON.stringify(first.faults));
    const { file, line, numbers } = first.value;
    expect(markOf(file)).toBe(format.format);
    expect(newestVersions[format.format]).toBe(format.version);
    expect(kindMarked(markOf(file))).toBe(kind);
    expect(line()).not.toBe('');
    expect(Object.keys(numbers()).length > 0).toBe(kind === 'tuning');
    expect(fileName(kind, 'Day boots, 2')).toBe(`day-boots-2${suffix}`);
    const again = parseAny(documentText(file));
    expect(again).toMatchObject({ ok: true, value: { project: null, members: [{ kind, reading: { ok: true, value: file } }] } });
  });

  it('stand in a project in their own lists', () => {
    const lists = Object.fromEntries(kindNames.map((kind) => [collectionOf(kind), [samples[kind]]]));
    const project = readProject({ format: 'zygopod/project', version: 1, ...lists });
    if (!project.ok) throw new Error(JSON.stringify(project.faults));
    for (const kind of kindNames) expect(project.value[collectionOf(kind)]).toMatchObject([samples[kind]]);
  });

  it('give a name that is free, whatever capitals there are', () => {
    const taken = ['day-boots.tape.json', 'day-boots-2.tape.json'];
    expect(fileName('tape', 'Day Boots', (name) => taken.includes(name))).toBe('day-boots-3.tape.json');
  });
});
