import type { Dice } from './dice.ts';

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));
const tuning = (name: string, speed: number) => ({ format: 'zygopod/tuning', version: 2, name, pace: { walkSpeed: speed } });

interface Paced {
  pace: { walkSpeed: number };
}

/** A writer's document, as far as the server has acknowledged it. */
interface Acknowledged {
  id: string;
  /** Speeds of the revisions, by number, from 1; null if a revision exists whose answer was lost. */
  revisions: (number | null)[];
  draft: { version: number; speed: number } | null;
}

/** Writes revisions and drafts continuously, and records the acknowledged ones. */
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
      else if (answer?.status === 409) document.revisions.push(await this.#speedOf(`${path}/revisions/${document.revisions.length + 1}`));
      return;
    }
    const condition: Record<string, string> = document.draft ? { 'if-match': `"${document.draft.version}"` } : { 'if-none-match': '*' };
    const answer = await this.#send('PUT', `${path}/draft`, { file: tuning('Boots under siege', speed) }, condition);
    if (answer && answer.status < 300) document.draft = { version: (answer.body as { version: number }).version, speed };
    else if (answer?.status === 409) {
      const { current } = answer.body as { current: { version: number; file: Paced } | null };
      document.draft = current && { version: current.version, speed: current.file.pace.walkSpeed };
    }
  }

  async #speedOf(path: string): Promise<number | null> {
    const answer = await this.#send('GET', path);
    return answer?.status === 200 ? (answer.body as { file: Paced }).file.pace.walkSpeed : null;
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
      const text = await answer.text();
      if (answer.status >= 500 && answer.status !== 503)
        process.stderr.write(`${method} ${path}: ${answer.status} ${text.slice(0, 400)}\n`);
      return { status: answer.status, body: JSON.parse(text) };
    } catch {
      return null;
    }
  }
}

/** Several concurrent writers and their results. */
export class Writers {
  readonly #address: string;
  readonly #all: readonly Writer[];
  readonly #running: Promise<unknown>;

  constructor(address: string, dice: readonly Dice[]) {
    this.#address = address;
    this.#all = dice.map((one) => new Writer(address, one));
    this.#running = Promise.all(this.#all.map((writer) => writer.run()));
  }

  /** Stops them after their current request. */
  async end(): Promise<void> {
    for (const writer of this.#all) writer.end();
    await this.#running;
  }

  /** Writes that were answered with success and stand for something that has to be there. */
  get acknowledged(): number {
    return this.#kept().reduce((sum, { revisions, draft }) => sum + revisions.length + (draft ? 1 : 0), 0);
  }

  /** Answers whose status is so. */
  count(is: (status: number) => boolean): number {
    return this.#all.reduce((sum, { statuses }) => sum + [...statuses].reduce((n, [status, times]) => n + (is(status) ? times : 0), 0), 0);
  }

  /** Answers 5xx but 503. */
  get failures(): number {
    return this.count((status) => status >= 500 && status !== 503);
  }

  /** Counts acknowledged writes that are lost: revisions that are missing or differ, drafts that are missing or older. */
  async lost(): Promise<number> {
    let lost = 0;
    const get = async (path: string) => (await (await fetch(`${this.#address}/api/v1/tunings${path}`)).json()) as never;
    for (const { id, revisions, draft } of this.#kept()) {
      for (const [i, speed] of revisions.entries()) {
        const revision: { file?: Paced } = await get(`/${id}/revisions/${i + 1}`);
        if (!revision.file || (speed !== null && revision.file.pace.walkSpeed !== speed)) lost++;
      }
      if (!draft) continue;
      const there: { version?: number; file?: Paced } = await get(`/${id}/draft`);
      const isSame = there.version === draft.version ? there.file?.pace.walkSpeed === draft.speed : (there.version ?? 0) > draft.version;
      if (!isSame) lost++;
    }
    return lost;
  }

  #kept(): Acknowledged[] {
    return this.#all.flatMap(({ kept }) => kept);
  }
}
