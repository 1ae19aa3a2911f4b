import { expect, it } from 'vitest';
import type { Described } from './described.ts';

const NOBODY = '00000000-0000-4000-8000-000000000000';

/** Tests that links are answered as they are described: a game over plain HTTP, from hello to its deletion. */
export function linksAnswer(described: Described): void {
  const ask = described.ask.bind(described);

  const hears = described.hears.bind(described);

  it('is what linked games are answered by', async () => {
    const hello = { type: 'hello', protocol: 1, game: 'Described game', hz: 60, columns: ['tick', 'x'], can: ['set'] };
    const post = async (messages: object[], search = '') => {
      const { value } = await ask('POST', '/link', {}, 200, { body: messages, query: search });
      return value as unknown as { type: string; session: string }[];
    };
    const [welcome] = await post([
      hello,
      {
        type: 'rows',
        rows: [
          [0, 1],
          [1, 2],
        ],
      },
    ]);
    const id = (welcome as { session: string }).session;
    const at = { id };
    const listed = await ask('GET', '/links', {}, 200);
    expect((listed.value['items'] as { id: string }[]).find((one) => one.id === id)).toMatchObject({
      game: 'Described game',
      isLinked: true,
      next: 2,
    });
    const page = await ask('GET', '/links/{id}/rows', at, 200, { query: '?from=1' });
    expect(page.value).toEqual({ rows: [[1, 2]], hands: [], next: null });
    await ask('GET', '/links/{id}/rows', { id: NOBODY }, 404);
    await ask('GET', '/links/{id}/rows', at, 400, { query: '?from=-1' });
    await hears('/links/{id}/events', `/links/${id}/events`, 'event: state');
    await hears('/link', `/link?session=${id}`, ': listening');
    // Until the server has noticed that the stream above is closed, requests may still go there.
    for (let tick = 2, isHeard = false; !isHeard; tick++) {
      const sent = await ask('POST', '/links/{id}/requests', at, 202, { body: { type: 'set', values: { walk: tick } } });
      const answers: object[] = await post([{ type: 'rows', rows: [[tick, 3]] }], `?session=${id}`);
      isHeard = answers.length > 0;
      if (isHeard) expect(answers).toContainEqual({ type: 'set', values: { walk: tick }, id: sent.value['id'] });
    }
    await ask('POST', '/links/{id}/requests', at, 409, { body: { type: 'pause' } });
    await ask('POST', '/links/{id}/requests', at, 422, { body: { type: 'jump' } });
    await ask('DELETE', '/links/{id}', at, 409);
    await post([{ type: 'bye' }], `?session=${id}`);
    await ask('DELETE', '/links/{id}', at, 204);
    await ask('DELETE', '/links/{id}', at, 404);
  });
}
