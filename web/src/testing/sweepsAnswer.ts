import { expect, it } from 'vitest';
import type { Described } from './described.ts';

const NOBODY = '00000000-0000-4000-8000-000000000000';

/** Tests that sweeps on the queue are answered as they are described, and that the same one is measured once. */
export function sweepsAnswer(described: Described, tuning: object): void {
  const ask = described.ask.bind(described);

  it('is what sweeps are answered by: started, followed, stopped, continued and read', async () => {
    const body = {
      tuning,
      over: ['pace.walkSpeed=60:320:5', 'ramp.decelerate=300:4800:3:log'],
      metrics: ['stopDistance'],
      targets: [{ metric: 'stopTime', max: 1 }],
    };
    const { value } = await ask('POST', '/sweep-runs', {}, 201, { body });
    const at = { id: value['id'] as string };
    expect(value).toMatchObject({ cells: 15, state: 'running' });
    await described.hears('/sweep-runs/{id}/events', `/sweep-runs/${at.id}/events`, '"state":"done"');
    expect((await ask('GET', '/sweep-runs/{id}', at, 200)).value).toMatchObject({ state: 'done', done: 15, chunks: 1 });
    // The worker that measured it is still there; this sweep's chunk isn't waited for any more.
    expect((await ask('GET', '/health', {}, 200)).value['queue']).toMatchObject({ sweeps: 0, chunks: 0, workers: expect.any(Number) });
    const page = await ask('GET', '/sweep-runs/{id}/chunks', at, 200, { query: '?limit=5' });
    const [chunk] = page.value['items'] as { values: string; met: string }[];
    // Two metrics of eight bytes, and a byte for the targets, of each cell.
    expect([chunk?.values, chunk?.met].map((text) => Buffer.from(text ?? '', 'base64').length)).toEqual([15 * 16, 15]);
    const again = await ask('POST', '/sweep-runs', {}, 201, { body });
    expect(again.value).toMatchObject({ id: at.id, state: 'done' });
    expect((await ask('POST', '/sweep-runs/{id}/stop', at, 200)).value).toMatchObject({ state: 'done' });
    expect((await ask('POST', '/sweep-runs/{id}/resume', at, 200)).value).toMatchObject({ state: 'done' });
    for (const path of ['/sweep-runs/{id}', '/sweep-runs/{id}/chunks', '/sweep-runs/{id}/events'])
      await ask('GET', path, { id: NOBODY }, 404);
    for (const action of ['stop', 'resume']) await ask('POST', `/sweep-runs/{id}/${action}`, { id: NOBODY }, 404);
    await ask('GET', '/sweep-runs/{id}/chunks', at, 400, { query: '?after=-1' });
    const tape = { format: 'zygopod/tape', version: 1, name: 'Right', hz: 60, ticks: 30, events: [{ at: 0, press: 'right' }] };
    const ground = { format: 'zygopod/ground', version: 1, name: 'Yard', size: { width: 640, height: 384 }, start: { x: 80, y: 80 } };
    const taped = { ...body, metrics: ['peakSpeed@1'], tapes: [tape] };
    const { value: onTape } = await ask('POST', '/sweep-runs', {}, 201, { body: { ...taped, ground } });
    await described.hears('/sweep-runs/{id}/events', `/sweep-runs/${onTape['id']}/events`, '"state":"done"');
    for (const wrong of [taped, { ...taped, ground, tapes: [{ ...tape, hz: 0 }] }, { ...taped, ground, metrics: ['peakSpeed@2'] }])
      await ask('POST', '/sweep-runs', {}, 422, { body: wrong });
    for (const wrong of [{ over: ['pace.walkSpeed=9:1:2'] }, { over: [] }, { metrics: ['nonsense'] }, { surprise: 1 }])
      await ask('POST', '/sweep-runs', {}, 422, { body: { ...body, ...wrong } });
  });

  it('is what kept sweeps are answered by: their results, stored whole, and what has changed since', async () => {
    const project = (await ask('POST', '/projects', {}, 201, { body: { name: 'Swept' } })).value['id'] as string;
    const create = async (kind: string, file: object) =>
      (await ask('POST', '/{kind}', { kind }, 201, { query: `?project=${project}`, body: { file } })).value['id'] as string;
    const own = await create('tunings', tuning);
    const file = {
      format: 'zygopod/sweep',
      version: 1,
      name: 'Stops',
      tuning: { name: 'Kept', revision: 1 },
      over: ['pace.walkSpeed=60:320:5'],
      metrics: ['stopDistance'],
    };
    const id = await create('sweeps', file);
    for (const wrong of [{ over: ['pace.walkSpeed=9:1:5'] }, { over: [] }, { metrics: [] }, { tuning: { name: 'Kept' } }, { extra: 1 }])
      await ask('POST', '/{kind}', { kind: 'sweeps' }, 422, { body: { file: { ...file, ...wrong } } });
    await ask('GET', '/sweeps/{id}/result', { id }, 204);
    const from = [{ id: own, revision: 1 }];
    const cells = Float64Array.of(1, 2, 3, Number.NaN, 5);
    const measured = {
      values: Buffer.from(cells.buffer).toString('base64'),
      met: Buffer.from([0, 1, 2, 0, 2]).toString('base64'),
      holes: [{ at: [3], why: 'above sprint' }],
    };
    const put = (body: object, status: number) => ask('PUT', '/sweeps/{id}/result', { id }, status, { body });
    expect((await put({ revision: 1, from, measured }, 200)).value).toMatchObject({ measured, run: null, changed: [] });
    expect((await ask('GET', '/sweeps/{id}/result', { id }, 200)).value).toMatchObject({ revision: 1, from, measured, changed: [] });
    await put({ revision: 1, from, measured: { ...measured, met: '' } }, 422);
    await put({ revision: 1, from }, 422);
    await put({ revision: 1, from, run: NOBODY }, 422);
    await put({ revision: 2, from, measured }, 409);
    const list = async () =>
      (await ask('GET', '/projects/{id}/sweep-results', { id: project }, 200)).value['items'] as { changed: string[] }[];
    expect(await list()).toMatchObject([{ sweep: id, changed: [] }]);
    const revised = { file: { ...tuning, name: 'Other boots' } };
    await ask('POST', '/{kind}/{id}/revisions', { kind: 'tunings', id: own }, 201, { body: revised, headers: { 'if-match': '"1"' } });
    expect(await list()).toMatchObject([{ sweep: id, changed: [own] }]);
    // By a run on the queue, whose cells are the sweep’s.
    const { value: run } = await ask('POST', '/sweep-runs', {}, 201, { body: { tuning, over: file.over, metrics: file.metrics } });
    await described.hears('/sweep-runs/{id}/events', `/sweep-runs/${run['id']}/events`, '"state":"done"');
    expect((await put({ revision: 1, from: [{ id: own, revision: 2 }], run: run['id'] }, 200)).value).toMatchObject({
      run: run['id'],
      measured: null,
      changed: [],
    });
    for (const [method, path] of [
      ['GET', '/sweeps/{id}/result'],
      ['GET', '/projects/{id}/sweep-results'],
    ] as const)
      await ask(method, path, { id: NOBODY }, 404);
    await ask('PUT', '/sweeps/{id}/result', { id: NOBODY }, 404, { body: { revision: 1, from, measured } });
  });
}
