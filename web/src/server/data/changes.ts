import { EventEmitter } from 'node:events';
import { type DocumentKind, kindNames } from '@zygopod/core';
import { sql } from 'drizzle-orm';
import pg from 'pg';
import { z } from 'zod';
import { log } from '../log.ts';
import type { Database } from './connection.ts';

/** A change of a document: pages that show it read it again. */
export interface Change {
  kind: DocumentKind;
  id: string;
  head: number;
  is: 'made' | 'saved' | 'away' | 'back';
}

const change = z.object({ kind: z.enum(kindNames), id: z.uuid(), head: z.int(), is: z.enum(['made', 'saved', 'away', 'back']) });

/** Those who listen at a time; more are turned away. */
export const LISTENERS = 200;

/** The channel of the database by which all servers on it hear of each change (PostgreSQL: NOTIFY). */
const CHANNEL = 'zygopod_changes';

/** Milliseconds until the listening connection is opened again. */
const AGAIN = 500;

/** The channel of sweeps on the queue: the id of a run that changed. */
const RUNS = 'zygopod_sweeps';

const changes = new EventEmitter<{ change: [Change | null]; run: [string | null] }>();
changes.setMaxListeners(LISTENERS + 1);

/** Passes a change on to all who listen here; null: some may have been missed. */
export const passOn = (heard: Change | null): void => {
  changes.emit('change', heard);
};

/** Announces a change to all servers on the database, at once with the transaction that it belongs to. */
export async function announce(tx: Pick<Database, 'execute'>, { kind, id, head, is }: Change): Promise<void> {
  await tx.execute(sql`select pg_notify(${CHANNEL}, ${JSON.stringify({ kind, id, head, is })})`);
}

/** Listens to the changes of a database for as long as the process runs. Whenever the connection was away, changes may have been missed. */
export async function followChanges(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 3000, keepAlive: true });
  let isOver = false;
  const again = (error?: Error) => {
    if (isOver) return;
    isOver = true;
    if (error) log.warn({ error: error.message }, 'the connection that hears of changes was lost');
    client.end().catch(() => undefined);
    setTimeout(() => void followChanges(url), AGAIN).unref();
  };
  client.on('error', again);
  client.on('end', () => again());
  client.on('notification', ({ channel, payload = '' }) => {
    if (channel === RUNS) changes.emit('run', payload);
    else passOn(read(payload));
  });
  try {
    await client.connect();
    await client.query(`listen ${CHANNEL}; listen ${RUNS}`);
    passOn(null);
    changes.emit('run', null);
  } catch (error) {
    again(error instanceof Error ? error : undefined);
  }
}

/** Reads a notification; null if unreadable, so that everything is reloaded. */
function read(payload: string): Change | null {
  try {
    return change.parse(JSON.parse(payload));
  } catch {
    return null;
  }
}

/** Announces that a sweep's run has changed to all servers on the database. */
export async function announceRun(tx: Pick<Database, 'execute'>, id: string): Promise<void> {
  await tx.execute(sql`select pg_notify(${RUNS}, ${id})`);
}

/** Hears of changes of one run until the answer is called; null if too many listen. */
export function listenToRun(id: string, hear: () => void): (() => void) | null {
  if (changes.listenerCount('run') >= LISTENERS) return null;
  const listener = (changed: string | null) => {
    if (changed === null || changed === id) hear();
  };
  changes.on('run', listener);
  return () => {
    changes.off('run', listener);
  };
}

/** Hears of changes until the answer is called; null if too many listen. One who cannot hear any more keeps nobody else from it. */
export function listenToChanges(hear: (change: Change | null) => void): (() => void) | null {
  if (changes.listenerCount('change') >= LISTENERS) return null;
  const listener = (heard: Change | null) => {
    try {
      hear(heard);
    } catch {
      stop();
    }
  };
  const stop = () => {
    changes.off('change', listener);
  };
  changes.on('change', listener);
  return stop;
}
