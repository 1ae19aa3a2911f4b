import pg from 'pg';
import type { Dice } from './dice.ts';
import { type Stand, until } from './stand.ts';

/** Targets of a kill, each with its share in percent. */
const targets = [
  ['backends', 40],
  ['server', 30],
  ['database', 20],
  ['all', 10],
] as const;
type Target = (typeof targets)[number][0];

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

function pick(dice: Dice): Target {
  let left = dice.below(100);
  for (const [target, share] of targets) {
    left -= share;
    if (left < 0) return target;
  }
  return 'server';
}

/** Ends a process at once; whether there was one. */
function end(pid: number | undefined): boolean {
  try {
    return pid !== undefined && process.kill(pid, 'SIGKILL');
  } catch {
    // It is just about to be started again.
    return false;
  }
}

/** Kills parts of an application at random, waits until it is healthy, and records how long that took. */
export class Killer {
  readonly #stand: Stand;
  readonly #dice: Dice;
  readonly #kills = new Map<Target, number>();
  readonly #recoveries = new Map<Target, number[]>();
  readonly #deathsBefore: number;

  constructor(stand: Stand, dice: Dice) {
    this.#stand = stand;
    this.#dice = dice;
    this.#deathsBefore = this.#deaths();
  }

  get kills(): number {
    return [...this.#kills.values()].reduce((sum, count) => sum + count, 0);
  }

  /** How often each target was killed, in words. */
  get targets(): string {
    return targets.map(([target]) => `${target} ${this.#kills.get(target) ?? 0}`).join(', ');
  }

  /** Milliseconds from a kill until the application was healthy, by the last target. */
  get recoveries(): ReadonlyMap<Target, readonly number[]> {
    return this.#recoveries;
  }

  /** The number of servers that ended by themselves. */
  get unexplained(): number {
    return Math.max(0, this.#deaths() - this.#deathsBefore - (this.#kills.get('server') ?? 0) - (this.#kills.get('all') ?? 0));
  }

  /** Kills once, or a few times during the recovery, and waits for health. */
  async strike(): Promise<void> {
    let target = pick(this.#dice);
    await this.#kill(target);
    for (let more = 0; more < 3 && this.#dice.is(0.6); more++) {
      await pause(this.#dice.below(900));
      target = pick(this.#dice);
      await this.#kill(target);
    }
    const from = performance.now();
    // A death has to be noticed before health means anything.
    await pause(target === 'backends' ? 0 : 120);
    const { said } = this.#stand;
    await until(
      async () => (await this.#stand.isHealthy()) || this.#stand.process.exitCode !== null,
      `health after ${said.slice(-300)}`,
      60_000,
    );
    if (this.#stand.process.exitCode !== null) throw new Error(`up has ended: ${this.#stand.said.slice(-600)}`);
    this.#recoveries.set(target, [...(this.#recoveries.get(target) ?? []), performance.now() - from]);
  }

  async #kill(target: Target): Promise<void> {
    const { serverPid, postmasterPid } = this.#stand;
    const isServer = (target === 'server' || target === 'all') && end(serverPid);
    const isDatabase = (target === 'database' || target === 'all') && end(postmasterPid);
    if (!(isServer || isDatabase || (target === 'backends' && (await this.#endBackends())))) return;
    this.#kills.set(target, (this.#kills.get(target) ?? 0) + 1);
    this.#stand.kills++;
  }

  async #endBackends(): Promise<boolean> {
    let client: pg.Client | undefined;
    try {
      client = new pg.Client({ connectionString: this.#stand.databaseUrl, connectionTimeoutMillis: 2000 });
      client.on('error', () => undefined);
      await client.connect();
      await client.query(
        'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
      );
      return true;
    } catch {
      // The database is away itself.
      return false;
    } finally {
      await client?.end().catch(() => undefined);
    }
  }

  #deaths(): number {
    return this.#stand.said.split('The server has died').length;
  }
}

/** Milliseconds to wait for work after requesting its end. */
const PATIENCE = 60_000;

/** Kills processes at random intervals while work runs; `isOver` ends the work if the application doesn't recover. */
export async function killDuring(killer: Killer, rest: () => number, work: (isOver: () => boolean) => Promise<void>): Promise<void> {
  let isOver = false;
  const working = work(() => isOver).finally(() => {
    isOver = true;
  });
  working.catch(() => undefined);
  try {
    while (!isOver) {
      await pause(rest());
      if (!isOver) await killer.strike();
    }
  } finally {
    isOver = true;
    // Requests to an application that has ended may never complete.
    await Promise.race([working, pause(PATIENCE)]);
  }
}
