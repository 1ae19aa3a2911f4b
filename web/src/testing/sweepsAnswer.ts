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
    for (const wrong of [{ over: ['pace.walkSpeed=9:1:2'] }, { over: [] }, { metrics: ['nonsense'] }, { surprise: 1 }])
      await ask('POST', '/sweep-runs', {}, 422, { body: { ...body, ...wrong } });
  });
}
