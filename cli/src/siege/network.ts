import type { BrowserContext, Route } from 'playwright-core';

/** How a network treats requests: `lost`: done, but the answer never comes; `frozen`: nothing comes at all. */
export const networks = ['online', 'online', 'offline', 'slow', 'lost', 'frozen'] as const;
export type Condition = (typeof networks)[number];

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/** The network of a browser context, in which requests for documents can fail in several ways. */
export class Network {
  #condition: Condition = 'online';
  readonly #waiting = new Set<Route>();

  static async of(context: BrowserContext): Promise<Network> {
    const network = new Network();
    await context.route('**/api/v1/tunings/**', (route) => network.#meet(route).catch(() => undefined));
    return network;
  }

  async #meet(route: Route): Promise<void> {
    const condition = this.#condition;
    if (condition === 'online') return route.continue();
    if (condition === 'offline') return route.abort();
    if (condition === 'frozen') {
      this.#waiting.add(route);
      return;
    }
    const answer = await route.fetch().catch(() => null);
    if (condition === 'slow') await pause(800);
    return answer && condition === 'slow' ? route.fulfill({ response: answer }) : route.abort();
  }

  /** Changes the network; requests that were frozen fail. */
  async become(condition: Condition): Promise<void> {
    this.#condition = condition;
    const waiting = [...this.#waiting];
    this.#waiting.clear();
    for (const route of waiting) await route.abort().catch(() => undefined);
  }
}
