import { keepAsTargets, metricsOf, newTuning, readTuning, runDrills } from '@zygopod/core';
import { csvParse } from 'd3-dsv';
import { XMLValidator } from 'fast-xml-parser';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { exportReport, type Form, type Reported } from './exportReport.ts';
import { reportOf } from './reports.ts';

const files: { name: string; text: string; type: string | undefined }[] = [];
vi.mock('../controls/download.ts', () => ({
  download: (name: string, text: string, type?: string) => void files.push({ name, text, type }),
}));
afterEach(() => {
  files.length = 0;
  vi.useRealTimers();
});

const part = {
  name: '',
  not: null,
  cutShort: null,
  metrics: {},
  absent: {},
  walls: [
    {
      points: [
        [0, 0],
        [9, 9],
      ],
      isSolid: true,
    },
  ],
};

function reported(name: string): Reported {
  const read = readTuning(newTuning(name));
  if (!read.ok) throw new Error(name);
  const ran = [...runDrills(read.value.parameters)];
  const metrics = metricsOf(ran);
  const all = keepAsTargets(metrics);
  // One band that is missed: below all that it could be.
  const missed = { ...(all[0] as (typeof all)[number]), min: -2, max: -1 };
  const set = {
    format: 'zygopod/targets' as const,
    version: 1 as const,
    name: 'Bands, of "today"',
    note: '',
    targets: [missed, ...all.slice(1)],
  };
  const drills = ran.map((one) => ({ ...one, name: one.drill.name, walls: [] }));
  const judgement = { drills, metrics, snags: [], milliseconds: 12, ticks: 1000 } as unknown as Reported['judgement'];
  const drawn = drills.map(({ name: title }, i) => ({
    title,
    was: null,
    isPath: i % 2 === 0,
    part: {
      ...part,
      runs: [
        {
          points: [
            [0, 0],
            [40, i],
            [80, 30],
          ],
          gaits: [0, 1, 2],
        },
      ],
    } as Reported['drawn'][number]['part'],
  }));
  const of = {
    tuning: { id: 't', revision: 4, name },
    changedSince: false,
    ground: { id: 'g', revision: 2, name: 'Open' },
  };
  return { report: reportOf(of, { id: null, head: 0, set }, judgement, []), unit: 'px', targets: set, judgement, drawn };
}
const taken = (form: Form, name = 'Boots') => {
  const of = reported(name);
  exportReport(form, of);
  expect(files).toHaveLength(1);
  return { ...(files[0] as (typeof files)[number]), of };
};

describe('an exported report', () => {
  it('as CSV has a line for each metric of each drill, with its band, as a table is read', () => {
    const { name, text, of } = taken('CSV', 'Boots, "wet"');
    expect(name).toBe('boots-wet.drills.csv');
    const rows = csvParse(text);
    const all = of.judgement.drills.flatMap(({ metrics }) => Object.entries(metrics));
    expect(rows).toHaveLength(all.length);
    for (const [i, [key, value]] of all.entries()) {
      expect(rows[i]?.['metric']).toBe(key);
      if (value !== null) expect(Number(rows[i]?.['value'])).toBe(value);
    }
    const banded = rows.filter((row) => row['in its band'] !== '');
    expect(banded).toHaveLength(of.targets.targets.length);
    expect(banded.filter((row) => row['in its band'] === 'out')).toHaveLength(1);
    // Ends of lines as the format has them.
    expect(text.split('\r\n')).toHaveLength(rows.length + 2);
  });

  it('as JSON names its revision, its ground, its targets and its time', () => {
    vi.useFakeTimers({ now: new Date('2026-03-04T05:06:07Z') });
    const { name, text, of } = taken('JSON');
    expect(name).toBe('boots.drills.json');
    const read = JSON.parse(text);
    expect(read).toMatchObject({
      tuning: 'Boots',
      revision: 4,
      ground: 'Open',
      groundRevision: 2,
      judgedBy: 'Bands, of "today"',
      at: '2026-03-04T05:06:07.000Z',
      snags: [],
    });
    expect(read.metrics).toEqual(JSON.parse(JSON.stringify(of.judgement.metrics)));
    expect(read.drills.map((one: { name: string }) => one.name)).toEqual(of.judgement.drills.map((one) => one.name));
    expect(read.targets.filter((one: { ok: boolean }) => !one.ok)).toHaveLength(1);
    expect(read).not.toHaveProperty('changedSince');
  });

  it('as JUnit fails where a band is missed, once', () => {
    const { name, text, type } = taken('JUnit', 'A & B <c>');
    expect([name, type]).toEqual(['a-b-c.drills.xml', 'application/xml']);
    expect(text.match(/<failure /g)).toHaveLength(1);
    expect(text).toContain('A &amp; B &lt;c&gt;');
    expect(text).not.toContain('<c>');
  });

  it('as SVG has a drawing of each drill that was run, named, in the inks of the theme', () => {
    vi.stubGlobal('document', { documentElement: {} });
    vi.stubGlobal('getComputedStyle', () => ({ getPropertyValue: (name: string) => ` ink-of${name} ` }));
    const { name, text, of } = taken('SVG', 'A & B');
    vi.unstubAllGlobals();
    expect(name).toBe('a-b.drills.svg');
    expect(XMLValidator.validate(text)).toBe(true);
    expect(text.match(/<g transform="translate\(0 16\)">/g)).toHaveLength(of.drawn.length);
    for (const { title } of of.drawn) expect(text).toContain(`>${title}</text>`);
    expect(text).toContain('A &amp; B');
    expect(text).toContain('stroke="ink-of--hatch"');
    expect(text).not.toContain('var(');
  });
});
