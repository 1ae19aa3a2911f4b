import pg from 'pg';
import { afterAll, describe, expect, it } from 'vitest';
import { ownServer } from '../../testing/ownServer.ts';

const { address, databaseUrl, stop } = await ownServer();
afterAll(stop);
const tuning = { format: 'zygopod/tuning', version: 2, name: 'Boots on thin ice' };

const post = (path: string, body: unknown, headers: Record<string, string> = {}) =>
  fetch(`${address}/api/v1${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify(body),
  });

describe('a database that ends its connections', () => {
  it('in the middle of writes costs these at the most: answers are 503, what was answered with success is there, the server goes on', async () => {
    const killer = new pg.Client({ connectionString: databaseUrl });
    await killer.connect();
    const saved: { id: string; head: number }[] = [];
    const statuses = new Set<number>();
    for (let round = 0; round < 25; round++) {
      const writes = Array.from({ length: 8 }, async (_, i) => {
        const created = await post('/tunings', { file: { ...tuning, name: `Boots ${round} ${i}` } });
        statuses.add(created.status);
        if (created.status !== 201) return;
        const { id } = (await created.json()) as { id: string };
        saved.push({ id, head: 1 });
        const revision = await post(`/tunings/${id}/revisions`, { file: tuning }, { 'if-match': '"1"' });
        statuses.add(revision.status);
        if (revision.status === 201) saved.push({ id, head: 2 });
      });
      await killer.query(
        'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
      );
      await Promise.all(writes);
    }
    await killer.end();
    expect([...statuses].filter((status) => status !== 201 && status !== 503)).toEqual([]);
    expect(saved.length).toBeGreaterThan(20);
    for (const { id, head } of saved) {
      const read = await fetch(`${address}/api/v1/tunings/${id}`);
      expect(read.status).toBe(200);
      expect(((await read.json()) as { head: number }).head).toBeGreaterThanOrEqual(head);
    }
    expect((await fetch(`${address}/api/v1/health`)).status).toBe(200);
  });
});
