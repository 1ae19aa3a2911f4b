import type { Ability, LinkRequest, Tape } from '@zygopod/core';
import { askServer, send } from '../work/server.ts';

export type GameValue = number | boolean | string;

/** A number of a game by its own name. */
export interface GameParameter {
  name: string;
  path?: string;
  value: GameValue;
  min?: number;
  max?: number;
}

/** A game that is or was linked, as the server lists it. */
export interface LinkedGame {
  id: string;
  game: string;
  build: string;
  hz: number;
  unit: 'px' | 'm' | 'tiles';
  yUp: boolean;
  columns: string[];
  parameters: GameParameter[];
  can: Ability[];
  /** Values by the ticks from which they are in force, the earliest first. */
  sets: { tick: number; values: Record<string, GameValue> }[];
  isLinked: boolean;
  /** The first tick that has not come. */
  next: number;
  /** ms; null before the first heartbeat. */
  latency: number | null;
  seenAt: string;
}

/** Rows of a game, the hands in their ticks, and the server's time of arrival (ms since 1970); null for rows that it had kept. */
export interface GameRows {
  rows: number[][];
  hands: Tape['events'];
  arrived: number | null;
}

export const gameTitle = ({ game, build }: Pick<LinkedGame, 'game' | 'build'>): string => (build ? `${game}, build ${build}` : game);

/** The games that are or were linked; or why they are not known. */
export async function listGames(): Promise<LinkedGame[] | { why: string }> {
  const answer = await askServer<{ items: LinkedGame[] }>('GET', '/api/v1/links');
  return 'why' in answer ? { why: answer.why } : answer.body.items;
}

/** Sends a request to a game; returns its number, or why it can't be sent. */
export async function requestOf(id: string, body: LinkRequest): Promise<{ id: number } | { why: string }> {
  const answer = await send<{ id: number }>('POST', `/api/v1/links/${id}/requests`, { body });
  return 'why' in answer ? { why: answer.why } : answer.body;
}

/** Deletes a game that is gone; returns why it can't. */
export async function deleteGame(id: string): Promise<string | null> {
  const answer = await askServer('DELETE', `/api/v1/links/${id}`);
  return 'why' in answer ? answer.why : null;
}

interface Heard {
  rows(rows: GameRows): void;
  state(game: LinkedGame): void;
  done(answer: { id: number; tick: number; values?: Record<string, GameValue> }): void;
  refused(answer: { id: number; name?: string; why: string }): void;
}

/** Milliseconds until rows that can't be read are requested again. */
const AGAIN = 1000;

/**
 * Follows a game from a tick on: first the rows that the server has kept, then those that come, each tick once and in order, also over a lost
 * connection. Returns the function that ends it.
 */
export function followGame(id: string, from: number, heard: Heard): () => void {
  let next = from;
  let isOver = false;
  /** Rows that came live while older ones were still being read. */
  let waiting: GameRows[] | null = [];
  const take = ({ rows, hands, arrived }: GameRows) => {
    const own = rows.filter(([tick]) => (tick as number) >= next);
    const last = own.at(-1)?.[0];
    if (last === undefined) return;
    const first = next;
    next = last + 1;
    heard.rows({ rows: own, hands: hands.filter(({ at }) => at >= first), arrived });
  };
  const read = async (until: number) => {
    while (!isOver && next < until) {
      const answer = await send<{ rows: number[][]; hands: Tape['events'] }>('GET', `/api/v1/links/${id}/rows?from=${next}`);
      if (isOver) return;
      if ('why' in answer) await new Promise((again) => setTimeout(again, AGAIN));
      else if (answer.body.rows.length === 0) break;
      else take({ ...answer.body, arrived: null });
    }
    for (const rows of waiting ?? []) take(rows);
    waiting = null;
  };
  const stream = new EventSource(`/api/v1/links/${id}/events`);
  const on = <T>(event: string, act: (data: T) => void) =>
    stream.addEventListener(event, (message) => act(JSON.parse((message as MessageEvent<string>).data) as T));
  on<LinkedGame>('state', (game) => {
    heard.state(game);
    if (game.next <= next) {
      if (waiting?.length === 0) waiting = null;
      return;
    }
    waiting ??= [];
    void read(game.next);
  });
  on<GameRows>('rows', (rows) => (waiting ? waiting.push(rows) : take(rows)));
  on('done', heard.done);
  on('refused', heard.refused);
  return () => {
    isOver = true;
    stream.close();
  };
}
