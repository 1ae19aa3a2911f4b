import { Agent } from 'node:http';
import { freePort, startServer } from '../up/server.ts';
import { asker, BadAnswers, CLIENTS, client } from './clients.ts';
import { Dice } from './dice.ts';
import { type Figure, none, quantile, unbounded, under } from './figures.ts';
import { type Stand, until } from './stand.ts';

/** The key of a change. */
const keyOf = (id: unknown, head: unknown) => `${id} ${head}`;

/** A listener to changes, with the time at which it received each. */
class Listener {
  readonly heard = new Map<string, number>();
  readonly #over = new AbortController();
  #text = '';

  /** Settles once it listens. */
  async open(address: string): Promise<void> {
    const response = await fetch(`${address}/api/v1/changes`, { signal: this.#over.signal });
    if (!response.ok || !response.body) throw new Error(`/changes answers ${response.status}`);
    let listening = (): void => undefined;
    const begun = new Promise<void>((listens) => {
      listening = listens;
    });
    void this.#read(response.body as unknown as AsyncIterable<Uint8Array>, listening).catch(() => undefined);
    return begun;
  }

  close(): void {
    this.#over.abort();
  }

  async #read(body: AsyncIterable<Uint8Array>, listens: () => void): Promise<void> {
    const decoder = new TextDecoder();
    for await (const chunk of body) {
      listens();
      this.#text += decoder.decode(chunk, { stream: true });
      const events = this.#text.split('\n\n');
      this.#text = events.pop() ?? '';
      for (const event of events) {
        const data = /^data: (\{.*\})$/m.exec(event)?.[1];
        if (!data) continue;
        const { id, head } = JSON.parse(data) as { id?: string; head?: number };
        this.heard.set(keyOf(id, head), performance.now());
      }
    }
  }
}

/** Runs fifty clients on two servers with one database: listeners at either receive every change within a second. */
export async function links(stand: Stand, minutes: number, seed: number): Promise<Figure[]> {
  const port = await freePort();
  const second = await startServer({ host: '127.0.0.1', port, databaseUrl: stand.databaseUrl });
  const listeners = [new Listener(), new Listener()];
  const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS });
  /** When each change was answered, by its key. */
  const created = new Map<string, number>();
  const bad = new BadAnswers();
  try {
    await Promise.all([listeners[0]?.open(stand.address), listeners[1]?.open(second.address)]);
    const end = performance.now() + minutes * 60_000;
    await Promise.all(
      Array.from({ length: CLIENTS }, (_, i) => {
        const ask = asker(agent, i % 2 ? [port, stand.port] : [stand.port, port], (answer, _took, { method, path }) => {
          bad.hear(answer);
          const { status, body } = answer;
          if (status < 400 && status > 0 && method === 'POST')
            created.set(path === '' ? keyOf(body['id'], 1) : keyOf(path.split('/')[1], body['number']), performance.now());
        });
        return client(`Boots between two servers ${i}`, new Dice(seed + i), end, ask);
      }),
    );
    await until(() => listeners.every(({ heard }) => [...created.keys()].every((key) => heard.has(key))), 'the last change', 5000).catch(
      () => undefined,
    );
  } finally {
    for (const listener of listeners) listener.close();
    agent.destroy();
    await second.stop();
  }
  const waits = listeners.flatMap(({ heard }) =>
    [...created].flatMap(([key, at]) => (heard.has(key) ? [(heard.get(key) as number) - at] : [])),
  );
  return [
    unbounded('links', 'changes made on two servers', String(created.size)),
    ...bad.figures('links'),
    none('links', 'changes that a page did not hear of', 2 * created.size - waits.length),
    unbounded('links', 'heard after the answer, median', `${quantile(waits, 0.5).toFixed(0)} ms`),
    under('links', 'heard after the answer, most', Math.max(0, ...waits) / 1000, 1, 's'),
  ];
}
