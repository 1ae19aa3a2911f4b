import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { parseTuning, readAxis, resolveTuning, Sweep, type SweepAxis, type SweepDefinition } from '@zygopod/core';
import { root } from '../root.ts';
import { runSweep } from '../sweep/pool.ts';
import { runQueued } from '../sweep/queued.ts';
import { Dice } from './dice.ts';
import { type Figure, none, unbounded } from './figures.ts';
import { Killer } from './killer.ts';
import type { Stand } from './stand.ts';

/** Workers besides those of the server. */
const WORKERS = 2;
/** Kills from which on a sweep has its full size. */
const MANY = 50;

const metrics = ['stopDistance', 'tightestGap', 'slideKept(45)'] as const;

/** A worker process on a database, started again whenever it is killed. */
class Victim {
  readonly #url: string;
  #process: ChildProcess;

  constructor(url: string) {
    this.#url = url;
    this.#process = this.#start();
  }

  #start(): ChildProcess {
    return spawn(process.execPath, [join(root, 'web/src/server/sweeps/main.ts')], {
      cwd: join(root, 'web'),
      env: { ...process.env, DATABASE_URL: this.#url },
      stdio: 'ignore',
    });
  }

  strike(): void {
    this.#process.kill('SIGKILL');
    this.#process = this.#start();
  }

  async end(): Promise<void> {
    if (this.#process.exitCode !== null || this.#process.signalCode !== null) return;
    const gone = once(this.#process, 'exit');
    this.#process.kill('SIGKILL');
    await gone;
  }
}

/** A sweep of the demo’s first tuning, of 1,000 or 20,000 cells; each round has other ones. */
function definitionOf(round: number, kills: number): { definition: SweepDefinition; request: object } {
  const text = readFileSync(join(root, 'demo/carrier-day-boots.tuning.json'), 'utf8');
  const read = parseTuning(text);
  const tuning = read.ok ? resolveTuning(read.value.file) : read;
  if (!tuning.ok) throw new Error('the demo cannot be read');
  const [across, down] = kills >= MANY ? [160, 125] : [40, 25];
  const over = [`pace.walkSpeed=${60 + round}:320:${across}`, `ramp.decelerate=300:4800:${down}:log`];
  const axes = over.map((axis) => readAxis(axis, tuning.value.file) as SweepAxis);
  return {
    definition: { tuning: tuning.value, axes, metrics, targets: [], ground: null },
    request: { tuning: JSON.parse(text), over, metrics },
  };
}

/** Cells with another value of any metric, bit for bit. */
function differing(one: Sweep, other: Sweep): number {
  let count = 0;
  for (let cell = 0; cell < one.cells; cell++)
    if (metrics.some((key) => !Object.is(one.values.get(key)?.[cell], other.values.get(key)?.[cell]))) count++;
  return count;
}

/** Kills workers, servers and the database while sweeps are measured on the queue: each cell is there in the end, as without kills. */
export async function sweeps(stand: Stand, kills: number, seed: number): Promise<Figure[]> {
  const dice = new Dice(seed);
  const killer = new Killer(stand, dice);
  const victims = Array.from({ length: WORKERS }, () => new Victim(stand.databaseUrl));
  let [struck, rounds, cells, missing, different] = [0, 0, 0, 0, 0];
  const killed = () => struck + killer.kills;
  try {
    while (killed() < kills) {
      const { definition, request } = definitionOf(rounds++, kills);
      const queued = new Sweep(definition);
      let isOver = false;
      const measuring = runQueued(
        queued,
        request,
        stand.address,
        () => undefined,
        () => undefined,
      ).finally(() => {
        isOver = true;
      });
      measuring.catch(() => undefined);
      while (!isOver && killed() < kills) {
        await pause(300 + dice.below(1500));
        if (dice.is(0.5)) {
          dice.one(victims).strike();
          struck++;
          stand.kills++;
        } else await killer.strike();
      }
      await measuring;
      const here = new Sweep(definition);
      await runSweep(here, () => undefined);
      cells += here.cells;
      missing += queued.cells - queued.done;
      different += differing(queued, here);
    }
  } finally {
    await Promise.all(victims.map((victim) => victim.end()));
  }
  return [
    unbounded('sweeps', 'kills', `${killed()} (workers ${struck}, ${killer.targets})`),
    unbounded('sweeps', 'cells', `${cells} in ${rounds} ${rounds === 1 ? 'sweep' : 'sweeps'}`),
    none('sweeps', 'cells without a value', missing),
    none('sweeps', 'cells with another value than without kills', different),
    none('sweeps', 'servers ended by an exception', killer.unexplained),
  ];
}
