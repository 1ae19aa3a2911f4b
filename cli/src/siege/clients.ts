import { readFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { Agent, request as httpRequest } from 'node:http';
import { join } from 'node:path';
import { Dice } from './dice.ts';
import { atLeast, type Figure, none, quantile, unbounded, under } from './figures.ts';
import type { Stand } from './stand.ts';

/** Concurrent clients. */
export const CLIENTS = 50;
const tuning = (name: string, speed: number) => ({ format: 'zygopod/tuning', version: 2, name, pace: { walkSpeed: speed } });

/** Memory that a process has now, MB. */
export function memoryOf(pid: number | undefined): number {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
  } catch {
    return 0;
  }
}

interface Answer {
  status: number;
  body: Record<string, unknown>;
}

function send(
  agent: Agent,
  port: number,
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answer> {
  return new Promise((answered) => {
    const text = body === undefined ? undefined : JSON.stringify(body);
    const own =
      text === undefined ? headers : { 'content-type': 'application/json', 'content-length': String(Buffer.byteLength(text)), ...headers };
    const sent = httpRequest({ agent, host: '127.0.0.1', port, method, path: `/api/v1/tunings${path}`, headers: own }, (answer) => {
      let all = '';
      answer.on('data', (chunk: Buffer) => {
        all += chunk.toString();
      });
      answer.on('end', () => answered({ status: answer.statusCode ?? 0, body: all ? (JSON.parse(all) as Record<string, unknown>) : {} }));
    });
    sent.on('error', () => answered({ status: 0, body: {} }));
    sent.end(text);
  });
}

/** Sends one request of a client. */
type Ask = (method: string, path: string, body?: unknown, headers?: Record<string, string>) => Promise<Answer>;

/** Sends requests to servers in turn over persistent connections; `heard` receives each answer and how long it took (ms). */
export function asker(
  agent: Agent,
  ports: readonly number[],
  heard: (answer: Answer, took: number, request: { method: string; path: string }) => void,
): Ask {
  let turn = 0;
  return async (method, path, body, headers) => {
    const from = performance.now();
    const answer = await send(agent, ports[turn++ % ports.length] as number, method, path, body, headers);
    heard(answer, performance.now() - from, { method, path });
    return answer;
  };
}

/** Runs one client: creates, lists, reads, drafts and saves tunings until `end`. */
export async function client(name: string, dice: Dice, end: number, ask: Ask): Promise<void> {
  while (performance.now() < end) {
    const { body } = await ask('POST', '', { file: tuning(name, 100) });
    const path = `/${body['id']}`;
    let draft: unknown;
    for (let head = 1; head < 6 && performance.now() < end; head++) {
      await ask('GET', '?limit=20');
      await ask('GET', path);
      for (let n = 0; n < 3; n++) {
        const condition: Record<string, string> = draft === undefined ? { 'if-none-match': '*' } : { 'if-match': `"${draft}"` };
        draft = (await ask('PUT', `${path}/draft`, { file: tuning(name, 100 + dice.below(100)) }, condition)).body['version'];
      }
      await ask('POST', `${path}/revisions`, { file: tuning(name, 100 + head), draft: `"${draft}"` }, { 'if-match': `"${head}"` });
      draft = undefined;
    }
  }
}

/** Answers that are not good, by what they say. */
export class BadAnswers {
  readonly #kinds = new Map<string, number>();

  hear({ status, body }: Answer): void {
    if (status > 0 && status < 400) return;
    const kind = status === 0 ? 'none' : `${status} ${String(body['title'] ?? '')}`.trim();
    this.#kinds.set(kind, (this.#kinds.get(kind) ?? 0) + 1);
  }

  figures(part: string): Figure[] {
    const all = [...this.#kinds].sort(([, a], [, b]) => b - a);
    return [
      none(
        part,
        'answers that are not good',
        all.reduce((sum, [, count]) => sum + count, 0),
      ),
      ...all.slice(0, 3).map(([kind, count]) => unbounded(part, 'of them', `${count} × ${kind}`)),
    ];
  }
}

/** Measures how long a small write takes to reach the disk, four times a second: what the disk does to a run. */
class DiskWatch {
  readonly #path: string;
  readonly #timer: NodeJS.Timeout;
  #slowest = 0;
  #isWriting = false;

  constructor(folder: string) {
    this.#path = join(folder, 'disk-watch');
    this.#timer = setInterval(() => void this.#write(), 250);
  }

  async #write(): Promise<void> {
    if (this.#isWriting) return;
    this.#isWriting = true;
    const begun = performance.now();
    await writeFile(this.#path, Buffer.alloc(8192), { flush: true }).catch(() => undefined);
    this.#slowest = Math.max(this.#slowest, performance.now() - begun);
    this.#isWriting = false;
  }

  /** Ends it; returns the slowest write, ms. */
  stop(): number {
    clearInterval(this.#timer);
    return this.#slowest;
  }
}

/** Fifty clients that list, read, draft and save: how many requests a second, how long the slow ones take, whether memory grows. */
export async function clients(stand: Stand, minutes: number, seed: number): Promise<Figure[]> {
  const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS });
  const begun = performance.now();
  const end = begun + minutes * 60_000;
  const times: number[] = [];
  const bad = new BadAnswers();
  const disk = new DiskWatch(stand.state);
  const ask = asker(agent, [stand.port], (answer, took) => {
    times.push(took);
    bad.hear(answer);
  });
  const all = Promise.all(Array.from({ length: CLIENTS }, (_, i) => client(`Boots of client ${i}`, new Dice(seed + i), end, ask)));
  // Memory is compared with what it is once warm: after a third of the time.
  const looks: { share: number; memory: number }[] = [];
  const timer = setInterval(
    () => looks.push({ share: (performance.now() - begun) / (end - begun), memory: memoryOf(stand.serverPid) }),
    500,
  );
  await all;
  clearInterval(timer);
  const slowest = disk.stop();
  agent.destroy();
  const seconds = (performance.now() - begun) / 1000;
  const most = (from: number, to: number) =>
    Math.max(0, ...looks.filter(({ share }) => share >= from && share < to).map(({ memory }) => memory));
  return [
    unbounded('clients', 'requests', `${times.length} in ${seconds.toFixed(0)} s`),
    ...bad.figures('clients'),
    atLeast('clients', 'requests a second', times.length / seconds, 300),
    under('clients', 'p99', quantile(times, 0.99), 350, 'ms'),
    unbounded('clients', 'slowest write of 8 KB to the disk meanwhile', `${slowest.toFixed(0)} ms`),
    unbounded('clients', 'memory of the server', `${most(0.3, 0.65).toFixed(0)} MB, then ${most(0.65, 2).toFixed(0)} MB`),
    under('clients', 'memory that has grown', Math.max(0, most(0.65, 2) - most(0.3, 0.65)), 40, 'MB'),
  ];
}
