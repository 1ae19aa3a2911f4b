import { PgBoss } from 'pg-boss';
import { log } from '../log.ts';

/** The queue of a core's version: workers of another version never get its chunks. */
const queueOf = (core: string) => `sweep-chunks-${core.replace(/[^\w.-]/g, '_')}`;

/** Seconds after which a worker that gave no sign loses its chunk, and between two checks for that. */
const SILENCE = 10;
const CHECK = 1;

/** A chunk of a run to be measured, by a core of one version. */
export interface ChunkJob {
  run: string;
  number: number;
  core: string;
}

/** A job under way. */
export interface Taken {
  id: string;
  retryCount: number;
  data: ChunkJob;
}

/** Jobs that are sent in one statement. */
const BATCH = 1000;

/** The queue of chunks in the database. Workers supervise it: a chunk whose worker has died is given to another. */
export class ChunkQueue {
  readonly #boss: PgBoss;
  readonly #name: string;

  private constructor(boss: PgBoss, name: string) {
    this.#boss = boss;
    this.#name = name;
  }

  static async open(url: string, { core, supervise }: { core: string; supervise: boolean }): Promise<ChunkQueue> {
    const boss = new PgBoss({
      connectionString: url,
      max: 2,
      application_name: 'zygopod-queue',
      schedule: false,
      supervise,
      superviseIntervalSeconds: CHECK,
      monitorIntervalSeconds: CHECK,
    });
    boss.on('error', (error) => log.warn({ error: error.message }, 'the queue reports an error'));
    await boss.start();
    const name = queueOf(core);
    await boss.createQueue(name, {
      heartbeatSeconds: SILENCE,
      retryLimit: 1000,
      retryDelay: 0,
      retentionSeconds: 14 * 86_400,
      deleteAfterSeconds: 60,
    });
    return new ChunkQueue(boss, name);
  }

  /** Sends chunks; those with low numbers, the coarse ones, are taken first, also when they come back. */
  async send(jobs: readonly ChunkJob[]): Promise<void> {
    for (let i = 0; i < jobs.length; i += BATCH)
      await this.#boss.insert(
        this.#name,
        jobs.slice(i, i + BATCH).map((data) => ({ data, priority: -data.number })),
      );
  }

  async take(): Promise<Taken | null> {
    const [job] = await this.#boss.fetch<ChunkJob | string>(this.#name);
    // This application reads jsonb as text: see data/schema.ts.
    return job ? { id: job.id, retryCount: job.retryCount, data: typeof job.data === 'string' ? JSON.parse(job.data) : job.data } : null;
  }

  /** Gives a sign that a job is still worked on. */
  async touch({ id, retryCount }: Taken): Promise<void> {
    await this.#boss.touch(this.#name, { id, retryCount });
  }

  async complete({ id, retryCount }: Taken): Promise<void> {
    await this.#boss.complete(this.#name, { id, retryCount });
  }

  async close(): Promise<void> {
    await this.#boss.stop({ graceful: false });
  }
}
