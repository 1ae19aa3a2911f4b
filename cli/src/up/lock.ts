import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Misuse } from '../misuse.ts';

/** A process; its start time (ticks since boot) distinguishes it from a later one with the same number. */
interface Running {
  pid: number;
  started: string;
}

interface Held extends Running {
  address?: string;
  /** The process that clears up when this one is killed. */
  sweeper?: Running;
}

/** When a process was started: field 22 of its stat, whose second field may hold anything, in brackets. Null if there is none. */
function startOf(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
  } catch {
    return null;
  }
}

export const runningNow = (pid: number): Running => ({ pid, started: startOf(pid) ?? '' });

const isAlive = ({ pid, started }: Running): boolean => startOf(pid) === started;

/** Reads a lock file; null if there is none, or it can't be read. */
function heldBy(path: string): Held | null {
  try {
    const held = JSON.parse(readFileSync(path, 'utf8')) as Partial<Held>;
    return typeof held.pid === 'number' && typeof held.started === 'string' ? (held as Held) : null;
  } catch {
    return null;
  }
}

/** Milliseconds for a sweeper to clean up after a killed run. */
const SWEPT = 10_000;

/** One `up` at a time in a folder; the processes of a killed run are ended first. */
export class Lock {
  readonly #path: string;
  readonly #patience: number;
  #held: Held = runningNow(process.pid);

  constructor(folder: string, patience = SWEPT) {
    this.#patience = patience;
    this.#path = join(folder, 'up.pid');
  }

  async take(folder: string, say: (line: string) => void): Promise<void> {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const earlier = heldBy(this.#path);
    if (earlier && isAlive(earlier))
      throw new Misuse(`Zygopod is running already${earlier.address ? ` on ${earlier.address}` : ''} (process ${earlier.pid}).`);
    if (earlier) say(`An earlier run (process ${earlier.pid}) was killed; taking over its processes.`);
    for (let waited = 0; earlier?.sweeper && isAlive(earlier.sweeper) && waited < this.#patience; waited += 50)
      await new Promise((next) => setTimeout(next, 50));
    if (existsSync(this.#path)) rmSync(this.#path, { force: true });
    try {
      writeFileSync(this.#path, JSON.stringify(this.#held), { flag: 'wx', mode: 0o600 });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      throw new Misuse('Zygopod is being started here already.');
    }
  }

  /** Records this run's address and sweeper for others. */
  record(more: { address?: string; sweeper?: Running }): void {
    this.#held = { ...this.#held, ...more };
    writeFileSync(this.#path, JSON.stringify(this.#held), { mode: 0o600 });
  }

  release(): void {
    rmSync(this.#path, { force: true });
  }
}
