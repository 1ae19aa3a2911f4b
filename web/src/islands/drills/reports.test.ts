import { type Metrics, VERSION } from '@zygopod/core';
import { afterEach, describe, expect, it, vi } from 'vitest';
import manifest from '../../../../core/package.json' with { type: 'json' };
import { countsOf, keepReport, keptReports, reportOf } from './reports.ts';

const of = {
  tuning: { id: 'T', revision: 4, name: 'Day boots' },
  changedSince: true,
  ground: { id: 'G', revision: 2, name: 'Boardwalk' },
};
const set = {
  format: 'zygopod/targets' as const,
  version: 1 as const,
  name: 'Brisk',
  note: '',
  targets: [
    { metric: 'riseTime', min: 0.1, max: 0.2 },
    { metric: 'slideKept', at: 45, min: 0.8 },
    { metric: 'stepTime', max: 0.2 },
  ],
};
const metrics = { riseTime: 0.15, 'slideKept(45)': 0.71 } as Metrics;
const created = () =>
  reportOf(of, { id: 'S', head: 3, set }, { metrics, absent: {} }, [{ id: 'sprint-on-empty', severity: 'fault', evidence: 'all of it' }]);

afterEach(() => vi.unstubAllGlobals());

describe('a report', () => {
  it('holds the subject, the targets and the result', () => {
    const report = created();
    expect(report).toMatchObject({ ...of, targets: { id: 'S', revision: 3, name: 'Brisk' }, metrics, core: VERSION });
    expect(report.judged).toEqual([
      { metric: 'riseTime', min: 0.1, max: 0.2, ok: true },
      { metric: 'slideKept(45)', min: 0.8, ok: false },
      { metric: 'stepTime', max: 0.2, ok: null },
    ]);
    expect(report.snags).toEqual([{ id: 'sprint-on-empty', severity: 'fault' }]);
    expect(countsOf(report)).toEqual({ met: 1, missed: 1 });
  });

  it('names the version that the core is published as', () => {
    expect(VERSION).toBe(manifest.version);
  });

  it('is kept, and says why it is not', async () => {
    const answers = [
      new Response(JSON.stringify({ ...created(), id: 'R', createdAt: 'now' }), { status: 201 }),
      new Response(JSON.stringify({ title: 'The database is away' }), { status: 503 }),
      new Response('<html>', { status: 502 }),
    ];
    const fetched = vi.fn(async () => answers.shift() as Response);
    vi.stubGlobal('fetch', fetched);
    expect(await keepReport(created())).toMatchObject({ id: 'R' });
    expect(await keepReport(created())).toMatchObject({ why: 'The database is away.' });
    expect(await keepReport(created())).toMatchObject({ why: 'The server answered 502.' });
    vi.stubGlobal('fetch', () => Promise.reject(new Error('no way')));
    expect(await keepReport(created())).toMatchObject({ why: 'The server cannot be reached.' });
    expect(await keptReports('T')).toEqual([]);
  });
});
