import { abilities, linkRequest } from '@zygopod/core';
import { z } from 'zod';
import { HttpGame } from '../../link/overHttp.ts';
import { type Links, sharedLinks } from '../../link/reach.ts';
import type { GameSession } from '../../link/session.ts';
import type { KeptSession } from '../../link/store.ts';
import { Problem } from '../../problem.ts';
import { eventStream } from '../events.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { json } from '../responses.ts';

/** Messages of a game in a request, and bytes of them. */
const MOST_MESSAGES = 100;
const LARGEST = 1024 * 1024;
/** Pages and programs that watch a game at a time. */
const MOST_WATCHERS = 50;

function links(): Links {
  const shared = sharedLinks();
  if (!shared) throw new Problem(503, 'This process has no links to games');
  return shared;
}

const game = z
  .strictObject({
    id: z.uuid(),
    game: z.string(),
    build: z.string(),
    hz: z.number(),
    unit: z.string(),
    yUp: z.boolean(),
    columns: z.array(z.string()),
    parameters: z.array(z.record(z.string(), z.unknown())),
    can: z.array(z.enum(abilities)),
    sets: z
      .array(z.strictObject({ tick: z.int(), values: z.record(z.string(), z.union([z.number(), z.boolean(), z.string()])) }))
      .meta({ description: 'Values of the parameters by the ticks from which they are in force, the earliest first' }),
    isLinked: z.boolean(),
    next: z.int().meta({ description: 'The first tick that has not come' }),
    latency: z.number().nullable().meta({ description: 'Half of the shortest recent round trip, ms' }),
    seenAt: z.iso.datetime().meta({ description: 'When something came last' }),
  })
  .meta({ id: 'LinkedGame' });

function gameOf({ id, hello, sets, next, seen }: KeptSession, session: GameSession | null): z.infer<typeof game> {
  const { type: _type, protocol: _protocol, session: _session, game: name, ...said } = hello;
  return {
    id,
    game: name,
    ...said,
    sets,
    isLinked: session?.transport != null,
    next,
    latency: session?.latency ?? null,
    seenAt: new Date(seen).toISOString(),
  };
}

/** All games that are or were linked, the linked ones first. */
async function games(): Promise<z.infer<typeof game>[]> {
  const { hub, store } = links();
  const kept = new Map((await store.list()).map((one) => [one.id, one as KeptSession]));
  for (const session of hub.sessions) kept.set(session.id, session);
  const all = [...kept.values()].map((one) => gameOf(one, hub.find(one.id)));
  return all.sort((a, b) => Number(b.isLinked) - Number(a.isLinked) || b.seenAt.localeCompare(a.seenAt));
}

const list: Operation = {
  method: 'GET',
  path: '/links',
  name: 'listLinks',
  words: 'The games that are linked, and those that were',
  answers: {
    200: { words: 'The games, the linked ones first', schema: z.strictObject({ items: z.array(game) }).meta({ id: 'LinkedGames' }) },
  },
  run: async () => json({ items: await games() }),
};

const remove: Operation = {
  method: 'DELETE',
  path: '/links/{id}',
  name: 'deleteLink',
  words: 'Deletes a game that is no longer linked, with its rows',
  answers: { 204: { words: 'Deleted' }, 409: { words: 'The game is linked' } },
  run: async ({ id }: OperationRequest) => {
    const { hub, store } = links();
    if (hub.find(id)?.transport) throw new Problem(409, 'The game is linked');
    if (!(await store.remove(id))) throw new Problem(404, 'No such link');
    hub.forget(id);
    return new Response(null, { status: 204 });
  },
};

const from = z.strictObject({
  from: z.coerce.number().int().min(0).default(0).meta({ description: 'The first tick wanted' }),
});

const page = z
  .strictObject({
    rows: z.array(z.array(z.number())),
    hands: z.array(z.record(z.string(), z.unknown())),
    next: z.int().nullable().meta({ description: 'The first tick of the next page; null if there is none yet' }),
  })
  .meta({ id: 'LinkRowsPage' });

const rows: Operation = {
  method: 'GET',
  path: '/links/{id}/rows',
  name: 'readLinkRows',
  words: 'The rows of a game from a tick on, and the hands of their ticks, page by page',
  query: from,
  answers: { 200: { words: 'Some rows, in the order of their ticks', schema: page } },
  run: async ({ id, query }: OperationRequest<z.infer<typeof from>>) => {
    const { hub, store } = links();
    const session = hub.find(id) ?? (await store.find(id));
    if (!session) throw new Problem(404, 'No such link');
    const { next } = session;
    await hub.flush();
    const found = await store.rows(id, session.hello.columns.length, query.from);
    const last = found.rows.at(-1)?.[0];
    // Rows that have come, and can't be written now, must not look like the end.
    if (last === undefined && query.from < next) throw new Problem(503, 'The newest rows can’t be read now', { retryAfter: 1 });
    return json({ ...found, next: last === undefined || last + 1 >= next ? null : last + 1 });
  },
};

const watch: Operation = {
  method: 'GET',
  path: '/links/{id}/events',
  name: 'watchLink',
  words:
    'Server-sent events of a linked game: `rows` with { rows, hands, arrived } as they come, `state` with the game whenever it comes or goes, ' +
    '`done` (of a `set` with its values) and `refused` with the number of a request',
  answers: { 200: { words: 'An event stream', schema: z.string(), type: 'text/event-stream' } },
  run: async ({ id, request }: OperationRequest) => {
    const { hub, store } = links();
    const kept = hub.find(id) ?? (await store.find(id));
    if (!kept) throw new Problem(404, 'No such link');
    if ((hub.find(id)?.watchers ?? 0) >= MOST_WATCHERS) throw new Problem(503, 'Too many pages watch this game', { retryAfter: 5 });
    return eventStream(request, (send) => {
      let watched: GameSession | null = null;
      let stop = () => {};
      const state = () => send('state', gameOf(watched ?? kept, watched));
      // A game that comes back is another session object.
      const follow = () => {
        const session = hub.find(id);
        if (session && session !== watched) {
          stop();
          watched = session;
          stop = session.watch((event) => {
            if (event.type === 'state') state();
            else if (event.type === 'rows') send('rows', event.batch);
            else send(event.type, event);
          });
        }
        state();
      };
      const unwatch = hub.watch(follow);
      follow();
      return () => {
        unwatch();
        stop();
      };
    });
  },
};

const wanted = linkRequest.meta({ id: 'LinkRequest', description: 'A request to the game' });

const send: Operation = {
  method: 'POST',
  path: '/links/{id}/requests',
  name: 'sendToGame',
  words: 'Sends a request to a linked game; `done` or `refused` come as events, with the number that is returned',
  body: wanted,
  answers: {
    202: { words: 'Sent', schema: z.strictObject({ id: z.int() }).meta({ id: 'LinkRequestSent' }) },
    409: { words: 'The game is not linked, or can’t do it' },
  },
  run: async ({ id, body }: OperationRequest<object, z.infer<typeof wanted>>) => {
    const { hub } = links();
    const session = hub.find(id);
    if (!session?.transport) throw new Problem(409, 'The game is not linked');
    const sent = hub.send(session, body);
    if ('why' in sent) throw new Problem(409, sent.why);
    return json(sent, { status: 202 });
  },
};

/** Games over plain HTTP, by their sessions. */
const httpGames = new Map<string, HttpGame>();

const ofSession = z.strictObject({ session: z.uuid().optional().meta({ description: 'The session of the welcome' }) });
const messages = z
  .array(z.unknown())
  .min(1)
  .max(MOST_MESSAGES)
  .meta({ description: 'Messages of the link protocol; the first one is hello' });

const post: Operation = {
  method: 'POST',
  path: '/link',
  name: 'linkOverHttp',
  words: 'The messages of a game without sockets (docs/link.md); the answer holds the server’s',
  query: ofSession,
  body: messages,
  largest: LARGEST,
  answers: { 200: { words: 'Messages for the game', schema: z.array(z.record(z.string(), z.unknown())).meta({ id: 'LinkMessages' }) } },
  run: async ({ query: { session }, body }: OperationRequest<z.infer<typeof ofSession>, unknown[]>) => {
    const known = session ? httpGames.get(session) : undefined;
    if (session && !known) throw new Problem(404, 'No such session: say hello again, with it');
    const { hub } = links();
    const one =
      known ??
      HttpGame.open(hub, (gone) => {
        for (const [id, game] of httpGames) if (game === gone) httpGames.delete(id);
      });
    if (!one) throw new Problem(503, 'Too many games are linked', { retryAfter: 5 });
    const answer = await one.take(body);
    const own = one.link.session?.id;
    if (own) httpGames.set(own, one);
    else one.end();
    return json(answer);
  },
};

const hear: Operation = {
  method: 'GET',
  path: '/link',
  name: 'hearLink',
  words: 'Server-sent events for a game without sockets: each is a message of the server',
  query: ofSession,
  answers: { 200: { words: 'An event stream', schema: z.string(), type: 'text/event-stream' } },
  run: async ({ query: { session }, request }: OperationRequest<z.infer<typeof ofSession>>) => {
    const known = session ? httpGames.get(session) : undefined;
    if (!known) throw new Problem(404, 'No such session: say hello first');
    return eventStream(request, (write) => known.listen((message) => write(null, message)));
  },
};

export const linkOperations = [list, rows, watch, send, remove, post, hear];
