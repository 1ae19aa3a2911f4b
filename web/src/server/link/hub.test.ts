import type { Hello, ServerMessage } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { seeds } from '../../../../core/src/testing/campaign.ts';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import { LinkHub, MOST_LINKS } from './hub.ts';
import { GameSession, type Transport } from './session.ts';
import type { LinkStore } from './store.ts';

const hello = (more: Partial<Hello> & { session?: string } = {}) => ({
  type: 'hello',
  protocol: 1,
  game: 'Letter run',
  hz: 60,
  columns: ['tick', 'x'],
  can: ['set', 'pause'],
  ...more,
});

/** A store in memory that loses what was not added to it, and fails when it is to. */
class FakeStore {
  readonly sessions = new Map<string, { hello: Hello; next: number }>();
  readonly rows = new Map<string, number[][]>();
  readonly hands = new Map<string, { at: number }[]>();
  fails = false;

  async find(id: string): Promise<GameSession | null> {
    const kept = this.sessions.get(id);
    return kept ? new GameSession(id, kept.hello, kept.next, 0) : null;
  }
  async keep({ id, hello: said, next }: GameSession): Promise<void> {
    const kept = this.sessions.get(id);
    this.sessions.set(id, { hello: said, next: kept?.next ?? next });
  }
  async add({ id }: GameSession, batches: GameSession['pending']): Promise<void> {
    const given = batches.map(({ rows, hands }) => ({ rows, hands }));
    // Writing takes a while, in which more may come.
    for (let i = 0; i < 12; i++) await Promise.resolve();
    if (this.fails) throw new Error('no room');
    const kept = this.sessions.get(id);
    if (!kept) return;
    for (const { rows, hands } of given) {
      const own = rows.filter((row) => (row[0] as number) >= kept.next);
      this.rows.set(id, [...(this.rows.get(id) ?? []), ...own]);
      this.hands.set(id, [...(this.hands.get(id) ?? []), ...hands.filter(({ at }) => at >= kept.next)]);
    }
    kept.next = Math.max(kept.next, ((given.at(-1)?.rows.at(-1)?.[0] as number) ?? -1) + 1);
  }
}

const hubOn = (store: FakeStore) => new LinkHub(store as unknown as LinkStore);

function connected(hub: LinkHub) {
  const sent: ServerMessage[] = [];
  const closed: string[] = [];
  const transport: Transport = { send: (message) => sent.push(message), close: (why) => closed.push(why) };
  const link = hub.open(transport);
  if (!link) throw new Error('too many');
  return { link, sent, closed, say: (message: unknown) => link.take(typeof message === 'string' ? message : JSON.stringify(message)) };
}
const welcomed = (sent: ServerMessage[]) => {
  const found = sent.find((message) => message.type === 'welcome');
  if (found?.type !== 'welcome') throw new Error(JSON.stringify(sent));
  return found;
};
const lastProblem = (sent: ServerMessage[]) => {
  const last = sent.at(-1);
  return last?.type === 'problem' ? `${last.status} ${last.detail ?? last.title}` : null;
};

describe('a link', () => {
  it('keeps every tick and every event once, whatever is cut off, sent again, or lost with the server', async () => {
    for (const seed of seeds(40, 1000)) {
      const next = sequence(seed * 7);
      const store = new FakeStore();
      let hub = hubOn(store);
      let game = connected(hub);
      await game.say(hello());
      const { session } = welcomed(game.sent);
      // The game: all rows that it has, and where it is to go on.
      const all = Array.from({ length: 200 + Math.floor(next() * 200) }, (_, tick) => [tick, next()]);
      const events = all.flatMap(([tick]) => (next() < 0.2 ? [{ at: tick as number, press: 'up' }] : []));
      let from = welcomed(game.sent).from;
      for (let round = 0; from < all.length || store.sessions.get(session)?.next !== all.length; round++) {
        expect(round, `seed ${seed}`).toBeLessThan(5000);
        const chance = next();
        if (chance < 0.15) {
          // The connection is lost, or the server with what it has not kept.
          if (chance < 0.06) hub = hubOn(store);
          else hub.close(game.link);
          game = connected(hub);
          await game.say(hello({ session }));
          expect(welcomed(game.sent).session).toBe(session);
          from = welcomed(game.sent).from;
        } else if (chance < 0.5) {
          store.fails = next() < 0.3;
          const written = hub.write();
          if (next() < 0.5) await written;
        } else {
          const to = Math.min(all.length, from + 1 + Math.floor(next() * 30));
          // Some of what was sent is sent again.
          const begin = Math.max(0, from - Math.floor(next() * 10));
          const message = { type: 'rows', rows: all.slice(begin, to), hands: events.filter(({ at }) => at >= begin && at < to) };
          if (message.rows.length > 0) await game.say(message);
          expect(lastProblem(game.sent), `seed ${seed}`).toBeNull();
          from = to;
        }
        if (from === all.length) store.fails = false;
      }
      expect(store.rows.get(session), `seed ${seed}`).toEqual(all);
      expect(store.hands.get(session), `seed ${seed}`).toEqual(events);
    }
  });

  it('says what is wrong with a message, and goes on', async () => {
    const { say, sent } = connected(hubOn(new FakeStore()));
    await say({ type: 'rows', rows: [] });
    expect(lastProblem(sent)).toBe('400 hello comes first');
    await say(hello({ columns: ['x', 'tick'] }));
    expect(lastProblem(sent)).toBe('400 columns: tick as the first column');
    await say(hello({ protocol: 2 } as never));
    expect(lastProblem(sent)).toMatch(/^400 protocol: /);
    await say(hello());
    await say(hello());
    expect(lastProblem(sent)).toBe('409 hello was said before');
    for (const [rows, hands, words] of [
      [[[0]], [], 'rows.0: found 1 numbers, expected 2'],
      [[[1.5, 0]], [], 'rows.0: found the tick 1.5, expected a whole number from 0'],
      [
        [
          [3, 0],
          [3, 0],
        ],
        [],
        'rows.1: found the tick 3 after 3, expected a later one',
      ],
      [[[3, 0]], [{ at: 4, press: 'up' }], 'hands.0: found the tick 4, expected one of the rows’ ticks'],
    ] as const) {
      await say({ type: 'rows', rows, hands });
      expect(lastProblem(sent)).toBe(`422 ${words}`);
    }
    await say('{"type":"rows","rows":[[0,1e999]]}');
    expect(lastProblem(sent)).toMatch(/^400 rows.0.1: /);
    await say('[[[');
    expect(lastProblem(sent)).toBe('400 the message is not JSON');
    const before = sent.length;
    await say({ type: 'rows', rows: [[0, 1]] });
    expect(sent).toHaveLength(before);
  });

  it('begins another session for other columns, another rate or unit, or a session that nobody knows', async () => {
    const hub = hubOn(new FakeStore());
    const first = connected(hub);
    await first.say(hello());
    const { session } = welcomed(first.sent);
    for (const more of [{ columns: ['tick', 'y'] }, { hz: 30 }, { unit: 'm' as const }]) {
      const other = connected(hub);
      await other.say(hello({ session, ...more }));
      expect(welcomed(other.sent)).toMatchObject({ from: 0 });
      expect(welcomed(other.sent).session).not.toBe(session);
    }
    const unknown = connected(hub);
    await unknown.say(hello({ session: '00000000-0000-4000-8000-000000000000' }));
    expect(welcomed(unknown.sent).from).toBe(0);
    // The game connects again while its first connection is half open: that one is closed, and takes nothing along.
    const again = connected(hub);
    await again.say(hello({ session }));
    expect(first.closed).toEqual(['the game has connected again']);
    hub.close(first.link);
    expect(hub.find(session)?.transport).not.toBeNull();
  });

  it('sends a game only what it can do, and passes its answers on', async () => {
    const hub = hubOn(new FakeStore());
    const game = connected(hub);
    await game.say(hello());
    const session = hub.find(welcomed(game.sent).session);
    if (!session) throw new Error('no session');
    const heard: object[] = [];
    session.watch((event) => heard.push(event));
    expect(hub.send(session, { type: 'restart' })).toEqual({ why: 'the game can’t restart' });
    const sent = hub.send(session, { type: 'set', values: { walk_speed: 150 } });
    if (!('id' in sent)) throw new Error(sent.why);
    expect(game.sent.at(-1)).toEqual({ type: 'set', values: { walk_speed: 150 }, id: sent.id });
    expect(hub.send(session, { type: 'run' })).toEqual({ id: sent.id + 1 });
    await game.say({ type: 'done', id: sent.id, tick: 12 });
    await game.say({ type: 'refused', id: sent.id + 1, why: 'not now' });
    expect(heard).toEqual([
      { type: 'done', id: sent.id, tick: 12, values: { walk_speed: 150 } },
      { type: 'refused', id: sent.id + 1, why: 'not now' },
    ]);
    await game.say({ type: 'bye' });
    expect(hub.send(session, { type: 'run' })).toEqual({ why: 'the game is not connected' });
  });

  it('knows the values of a game at every tick, also those that it comes back with', async () => {
    const hub = hubOn(new FakeStore());
    const game = connected(hub);
    const parameters = [
      { name: 'walk_speed', value: 140 },
      { name: 'friction', value: 900 },
    ];
    await game.say(hello({ parameters }));
    const { session: id } = welcomed(game.sent);
    const session = hub.find(id) as GameSession;
    const set = async (values: Record<string, number>, tick: number, isDone = true) => {
      const sent = hub.send(session, { type: 'set', values });
      if (!('id' in sent)) throw new Error(sent.why);
      await game.say(isDone ? { type: 'done', id: sent.id, tick } : { type: 'refused', id: sent.id, why: 'no' });
    };
    await game.say({ type: 'rows', rows: Array.from({ length: 50 }, (_, tick) => [tick, 0]) });
    await set({ walk_speed: 150 }, 20);
    await set({ walk_speed: 150, friction: 1200 }, 30);
    await set({ walk_speed: 99 }, 40, false);
    expect(session.sets).toEqual([
      { tick: 0, values: { walk_speed: 140, friction: 900 } },
      { tick: 20, values: { walk_speed: 150 } },
      { tick: 30, values: { friction: 1200 } },
    ]);
    expect(session.hello.parameters.map(({ value }) => value)).toEqual([150, 1200]);
    hub.close(game.link);
    const again = connected(hub);
    await again.say(hello({ session: id, parameters: [{ name: 'walk_speed', value: 160 }, parameters[1] as (typeof parameters)[0]] }));
    expect(session.sets.slice(3)).toEqual([{ tick: 50, values: { walk_speed: 160, friction: 900 } }]);
  });

  it('is one of so many at most, and makes room when it ends', () => {
    const hub = hubOn(new FakeStore());
    const all = Array.from({ length: MOST_LINKS }, () => connected(hub));
    const one = { send: () => undefined, close: () => undefined };
    expect(hub.open(one)).toBeNull();
    hub.close((all[3] as (typeof all)[number]).link);
    expect(hub.open(one)).not.toBeNull();
    expect(hub.open(one)).toBeNull();
  });
});
