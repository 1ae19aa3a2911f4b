import pg from 'pg';
import { Dice } from './dice.ts';
import { type Figure, none, quantile, told, under } from './figures.ts';
import { type Stand, until } from './stand.ts';

/** What is killed, and how often among a hundred. */
const targets = [
  ['backends', 40],
  ['server', 30],
  ['database', 20],
  ['all', 10],
] as const;
type Target = (typeof targets)[number][0];

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));
const tuning = (name: string, speed: number) => ({ format: 'zygopod/tuning', version: 2, name, pace: { walkSpeed: speed } });

/** Writers at the same time. */
const WRITERS = 6;

/** A writer's document: what the server has acknowledged of it. */
interface Acknowledged {
  id: string;
  /** Speeds of the revisions, by number, from 1. */
  revisions: number[];
  draft: { version: number; speed: number } | null;
}

/** Writes revisions and drafts without end, and remembers what was answered with success. */
class Writer {
  readonly kept: Acknowledged[] = [];
  readonly statuses = new Map<number, number>();
  readonly #address: string;
  readonly #dice: Dice;
  #isOver = false;

  constructor(address: string, dice: Dice) {
    this.#address = address;
    this.#dice = dice;
  }

  end(): void {
    this.#isOver = true;
  }

  async run(): Promise<void> {
    while (!this.#isOver) {
      const document = await this.#create();
      for (let i = 0; document && i < 20 && !this.#isOver; i++) await this.#change(document);
      if (!document) await pause(50);
    }
  }

  async #create(): Promise<Acknowledged | null> {
    const speed = 1 + this.#dice.below(400);
    const answer = await this.#send('POST', '', { file: tuning('Boots under siege', speed) });
    if (answer?.status !== 201) return null;
    const document = { id: (answer.body as { id: string }).id, revisions: [speed], draft: null };
    this.kept.push(document);
    return document;
  }

  async #change(document: Acknowledged): Promise<void> {
    const speed = 1 + this.#dice.below(400);
    const path = `/${document.id}`;
    if (this.#dice.is(0.5)) {
      const headers = { 'if-match': `"${document.revisions.length}"` };
      const answer = await this.#send('POST', `${path}/revisions`, { file: tuning('Boots under siege', speed) }, headers);
      if (answer?.status === 201) document.revisions.push(speed);
      // It was saved, but the answer was lost.
      else if (answer?.status === 409)
        document.revisions.push((await this.#speedOf(`${path}/revisions/${document.revisions.length + 1}`)) ?? speed);
      return;
    }
    const condition: Record<string, string> = document.draft ? { 'if-match': `"${document.draft.version}"` } : { 'if-none-match': '*' };
    const answer = await this.#send('PUT', `${path}/draft`, { file: tuning('Boots under siege', speed) }, condition);
    if (answer && answer.status < 300) document.draft = { version: (answer.body as { version: number }).version, speed };
    else if (answer?.status === 409) {
      const { current } = answer.body as { current: { version: number; file: { pace: { walkSpeed: number } } } | null };
      document.draft = current && { version: current.version, speed: current.file.pace.walkSpeed };
    }
  }

  async #speedOf(path: string): Promise<number | null> {
    const answer = await this.#send('GET', path);
    return answer?.status === 200 ? (answer.body as { file: { pace: { walkSpeed: number } } }).file.pace.walkSpeed : null;
  }

  async #send(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<{ status: number; body: unknown } | null> {
    try {
      const answer = await fetch(`${this.#address}/api/v1/tunings${path}`, {
        method,
        headers: body === undefined ? headers : { 'content-type': 'application/json', ...headers },
        body: body === undefined ? null : JSON.stringify(body),
        signal: AbortSignal.timeout(15_000),
      });
      this.statuses.set(answer.status, (this.statuses.get(answer.status) ?? 0) + 1);
      return { status: answer.status, body: await answer.json() };
    } catch {
      return null;
    }
  }
}

/** What of the acknowledged is not there: a revision that is missing or another, a draft that is gone or older. */
async function lostOf(address: string, kept: readonly Acknowledged[]): Promise<number> {
  let lost = 0;
  const get = async (path: string) => (await (await fetch(`${address}/api/v1/tunings${path}`)).json()) as never;
  for (const { id, revisions, draft } of kept) {
    for (const [i, speed] of revisions.entries()) {
      const revision: { file?: { pace: { walkSpeed: number } } } = await get(`/${id}/revisions/${i + 1}`);
      if (revision.file?.pace.walkSpeed !== speed) lost++;
    }
    if (!draft) continue;
    const there: { version?: number; file?: { pace: { walkSpeed: number } } } = await get(`/${id}/draft`);
    const isSame = there.version === draft.version ? there.file?.pace.walkSpeed === draft.speed : (there.version ?? 0) > draft.version;
    if (!isSame) lost++;
  }
  return lost;
}

function pick(dice: Dice): Target {
  let left = dice.below(100);
  for (const [target, share] of targets) {
    left -= share;
    if (left < 0) return target;
  }
  return 'server';
}

async function kill(stand: Stand, target: Target, databaseUrl: () => string): Promise<void> {
  const end = (pid: number | undefined) => {
    try {
      if (pid) process.kill(pid, 'SIGKILL');
    } catch {
      // It was just about to be started again.
    }
  };
  if (target === 'server' || target === 'all') end(stand.serverPid);
  if (target === 'database' || target === 'all') end(stand.postmasterPid);
  if (target !== 'backends') return;
  const client = new pg.Client({ connectionString: databaseUrl(), connectionTimeoutMillis: 2000 });
  client.on('error', () => undefined);
  try {
    await client.connect();
    await client.query(
      'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
    );
  } catch {
    // The database is away itself.
  } finally {
    await client.end().catch(() => undefined);
  }
}

/** Kills at random moments while six writers write: nothing that was acknowledged may be lost, and all is up again soon. */
export async function kills(stand: Stand, minutes: number, seed: number, most = 500): Promise<Figure[]> {
  const dice = new Dice(seed);
  const writers = Array.from({ length: WRITERS }, (_, i) => new Writer(stand.address, new Dice(seed + i + 1)));
  const running = writers.map((writer) => writer.run());
  const end = performance.now() + minutes * 60_000;
  const byTarget = new Map<Target, number[]>();
  const deathsBefore = stand.said.split('The server has died').length;
  const recoveries: number[] = [];
  while (recoveries.length < most && performance.now() < end) {
    await pause(dice.below(400));
    const target = pick(dice);
    await kill(stand, target, () => stand.databaseUrl);
    // What was killed has to be seen as dead before it can be seen as up again.
    await pause(target === 'backends' ? 0 : 120);
    const took = await until(() => stand.isHealthy(), 'health', 60_000);
    recoveries.push(took);
    byTarget.set(target, [...(byTarget.get(target) ?? []), took]);
  }
  for (const writer of writers) writer.end();
  await Promise.all(running);
  await until(() => stand.isHealthy(), 'health', 60_000);
  const kept = writers.flatMap((writer) => writer.kept);
  const writes = kept.reduce((sum, { revisions, draft }) => sum + revisions.length + (draft ? 1 : 0), 0);
  const deaths = stand.said.split('The server has died').length - deathsBefore;
  const count = (target: Target) => byTarget.get(target)?.length ?? 0;
  const caused = count('server') + count('all');
  const statuses = new Map<number, number>();
  for (const writer of writers) for (const [status, count] of writer.statuses) statuses.set(status, (statuses.get(status) ?? 0) + count);
  const odd = [...statuses].filter(([status]) => status >= 500 && status !== 503).reduce((sum, [, count]) => sum + count, 0);
  return [
    told('kills', 'kills', `${recoveries.length} (${targets.map(([target]) => `${target} ${count(target)}`).join(', ')})`),
    none('kills', `lost of ${writes} acknowledged writes`, await lostOf(stand.address, kept)),
    none('kills', 'servers ended by an exception', Math.max(0, deaths - caused)),
    none('kills', 'answers 5xx but 503', odd),
    told(
      'kills',
      'recovery, median',
      targets.map(([target]) => `${target} ${(quantile(byTarget.get(target) ?? [], 0.5) / 1000).toFixed(1)} s`).join(', '),
    ),
    under('kills', 'recovery, p99', quantile(recoveries, 0.99) / 1000, 6, 's'),
  ];
}
