import { AsyncLocalStorage } from 'node:async_hooks';
import { type FileValue, mergeFiles, newTuning, readTuning, type TuningFile, withValue, writtenAt } from '@zygopod/core';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { seeds } from '../../../../../core/src/testing/campaign.ts';
import { sequence } from '../../../../../core/src/testing/sequence.ts';
import { MemoryCopies } from '../../../testing/memoryCopies.ts';
import { ModelServer, type Network } from '../../../testing/modelServer.ts';
import { Steps } from '../steps.ts';
import { Adopting, keptWork } from './adopting.ts';
import type { Copy } from './copies.ts';
import { begin } from './opened.ts';
import { Saving } from './saving.ts';

/**
 * A person's typing is in the page, in the browser, or on the server, or its loss is announced before. Random sequences of typing, saving, leaving
 * and reloading, on servers that are away, slow, frozen, archived or shared with others, in browsers with several tabs or without room.
 */

const paths = [
  'pace.walkSpeed',
  'ramp.accelerate',
  'ramp.decelerate',
  'stamina.drain',
  'stamina.regain',
  'facing.rate',
  'ramp.brake',
  'step.cell',
];

const PERIOD = 400;
let network: Network = 'online';
let server: ModelServer;
let copies: MemoryCopies;
/** The page that does what is being done; a page that is gone does nothing any more. */
const doing = new AsyncLocalStorage<Page>();
const never = () => new Promise<never>(() => undefined);
const wait = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/** Copies of pages that can die in the middle. */
class PageCopies extends MemoryCopies {
  override async put(copy: Copy): Promise<boolean> {
    await wait(3);
    return doing.getStore()?.isGone ? never() : this.putNow(copy);
  }

  override async drop(id: string, page: string): Promise<void> {
    await wait(3);
    if (doing.getStore()?.isGone) return never();
    return super.drop(id, page);
  }
}

/** Pages that are there hold locks; those that wait for one get it when it is let go. */
const held = new Map<string, Promise<void>>();
const locks = {
  request: async (name: string, _: object, call: () => unknown) => {
    await held.get(name);
    return call();
  },
};

async function respond(method: string, path: string, init: RequestInit): Promise<Response> {
  const page = doing.getStore();
  // A page that is gone has sent what it sent: nothing more.
  if (page?.isGone && !page.isLeaving) return never();
  const headers = init.headers as Record<string, string>;
  const body: unknown = typeof init.body === 'string' ? JSON.parse(init.body) : undefined;
  const now = network;
  if (now === 'offline') throw new TypeError('away');
  if (now === 'failing') return new Response('{"title":"The server failed"}', { status: 500 });
  if (now === 'frozen') {
    await wait(20_000);
    throw new DOMException('slow', 'TimeoutError');
  }
  await wait(5);
  const { status, body: history } = server.answer(method, path, headers, body);
  // It was done, and nobody hears of it.
  if (now === 'lost') throw new TypeError('lost');
  if (now === 'slow') await wait(3000);
  if (page?.isGone) return never();
  return new Response(JSON.stringify(history), { status });
}

const read = (kept: unknown) => {
  const reading = readTuning(kept);
  return reading.ok ? reading.value.file : null;
};

let pages = 0;

/** A page on the tuning: what the work of a screen is made of, without its drive. */
class Page {
  isGone = false;
  isLeaving = false;
  readonly name = `page${++pages}`;
  steps!: Steps<TuningFile>;
  saving!: Saving<TuningFile>;
  adopting!: Adopting<TuningFile>;
  #release = (): void => undefined;

  static async open(): Promise<Page> {
    const page = new Page();
    held.set(
      `zygopod-page-${page.name}`,
      new Promise((over) => {
        page.#release = over;
      }),
    );
    await doing.run(page, async () => {
      const opened = server.opened();
      const kept = await keptWork(copies, 'doc');
      const { now, before, origin, state } = begin(opened);
      page.steps = new Steps(now, before);
      page.saving = new Saving('tunings', origin, state, copies, page.name);
      page.adopting = new Adopting('tuning', { steps: page.steps, saving: page.saving, copies, read });
      for (const copy of kept.left) page.adopting.take(copy);
      page.steps.$now.listen((file) => page.saving.keep(file as TuningFile));
      page.adopting.follow(kept.others);
    });
    return page;
  }

  do<T>(work: () => T): T {
    return doing.run(this, work);
  }

  type(path: string, value: number): void {
    this.do(() => this.steps.replace(withValue(this.steps.$now.get(), path, value as FileValue), path));
  }

  /** The actions of the banner's buttons: merges, and uses the kept copy. Returns the shown and the dropped values. */
  decide(): void {
    this.do(() => {
      const state = this.saving.$state.get();
      if (state.at === 'conflict') {
        const { file } = mergeFiles('tuning', state.from, this.steps.$now.get(), state.theirs, state.sent);
        this.saving.settle(file);
        this.steps.replace(file, 'merge');
      }
      for (const offer of this.adopting.$offers.get()) this.adopting.decide(offer, 'kept');
    });
  }

  /** Leaves, unless something would be lost by that, as a person does who must confirm it. */
  leave(): boolean {
    return this.do(() => {
      if (!this.saving.leave()) return false;
      this.isLeaving = true;
      void this.saving.flush();
      this.saving.leave();
      this.isGone = true;
      this.isLeaving = false;
      this.#release();
      return true;
    });
  }

  /** The browser dies. What was typed a moment before is in its database. */
  die(): void {
    this.isGone = true;
    this.#release();
  }
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('navigator', { locks });
  vi.stubGlobal('fetch', (path: string, init: RequestInit) => respond(init.method ?? 'GET', path.replace('/api/v1/tunings/doc', ''), init));
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

/** Somebody else, who sees the newest state and changes one number of it. */
function somebody(does: 'drafts' | 'saves', path: string, value: number): void {
  if (server.isArchived) return;
  const { draft, head, saved } = server.opened();
  // A draft on an older revision knows nothing of the newest: they merge both first.
  const now = draft ? mergeFiles('tuning', [draft.from], draft.file, saved).file : saved;
  const file = withValue(now, path, value as FileValue);
  if (does === 'drafts') server.draft = { file, base: head, version: ++server.drafted };
  else {
    server.revisions.push(file);
    server.draft = null;
  }
}

/** A sequence of this seed: every number is another parameter's, so that all of them have to be there in the end. */
async function play(seed: number): Promise<string[]> {
  const next = sequence(seed * 7919 + 13);
  const history: string[] = [];
  network = 'online';
  server = new ModelServer(newTuning('Typed'));
  copies = new PageCopies();
  held.clear();
  const typed = new Map<string, number>();
  const unused = [...paths];
  let number = 200;
  const open: Page[] = [await opened()];
  for (let step = 0; step < 16; step++) {
    const at = Math.floor(next() * open.length);
    const page = open[at] as Page;
    const what = next();
    if (what < 0.34 && unused.length > 0) {
      const path = unused.splice(Math.floor(next() * unused.length), 1)[0] as string;
      const value = ++number;
      typed.set(path, value);
      history.push(`${page.name} types ${path} ${value}`);
      page.type(path, value);
      // Its database has it within this time, whatever becomes of the page.
      await vi.advanceTimersByTimeAsync(next() < 0.5 ? 10 : PERIOD);
    } else if (what < 0.42 && unused.length > 0) {
      const path = unused.splice(0, 1)[0] as string;
      const does = next() < 0.5 ? 'drafts' : 'saves';
      if (!server.isArchived) {
        const value = ++number;
        typed.set(path, value);
        history.push(`somebody ${does} ${path} ${value}`);
        somebody(does, path, value);
      }
    } else if (what < 0.5) {
      history.push(`${page.name} saves`);
      void page.do(() => page.saving.saveRevision(page.steps.$now.get(), ''));
      await vi.advanceTimersByTimeAsync(next() < 0.3 ? 2 : PERIOD);
    } else if (what < 0.66) {
      const dies = next() < 0.3;
      history.push(`${page.name} ${dies ? 'dies' : 'leaves'}`);
      // What can't be kept is said: no more can be done for it.
      if (dies && !copies.isFull && page.saving.$kept.get()) {
        const path = next() < 0.5 ? unused.pop() : undefined;
        if (path) {
          // Text that is typed and not entered is stored, too.
          typed.set(path, ++number);
          history.push(`${page.name} has ${path} ${number} typed and not entered`);
          const value = number as FileValue;
          page.do(() => page.saving.hold(() => withValue(page.steps.$now.get(), path, value)));
          await vi.advanceTimersByTimeAsync(10);
        }
        page.die();
      } else if (!page.leave()) {
        history.push('… and is asked to stay');
        continue;
      }
      open.splice(at, 1);
      if (open.length === 0 || next() < 0.7) open.push(await opened());
    } else if (what < 0.72 && open.length < 3) {
      history.push('a tab is opened');
      open.push(await opened());
    } else if (what < 0.76) {
      history.push(`${page.name} decides`);
      page.decide();
    } else if (what < 0.8) {
      copies.isFull = !copies.isFull;
      history.push(`the browser is ${copies.isFull ? 'full' : 'free'}`);
    } else if (what < 0.84) {
      server.isArchived = !server.isArchived;
      history.push(server.isArchived ? 'archived' : 'restored');
    } else {
      network = (['online', 'online', 'offline', 'lost', 'frozen', 'slow', 'failing'] as const)[Math.floor(next() * 7)] as Network;
      history.push(network);
      await vi.advanceTimersByTimeAsync(next() < 0.5 ? 30 : 2000);
    }
  }
  // All is well again, and everybody goes; one page is opened, and what it offers is used.
  network = 'online';
  server.isArchived = false;
  copies.isFull = false;
  await vi.advanceTimersByTimeAsync(40_000);
  for (const page of open) {
    void page.do(() => page.saving.retry());
    await vi.advanceTimersByTimeAsync(1000);
    expect(page.leave(), history.join('\n')).toBe(true);
    await vi.advanceTimersByTimeAsync(1000);
  }
  const last = await opened();
  for (let round = 0; round < 12; round++) {
    await vi.advanceTimersByTimeAsync(3000);
    last.decide();
  }
  await vi.advanceTimersByTimeAsync(3000);
  const file = server.draft?.file ?? (server.revisions.at(-1) as TuningFile);
  const lost = [...typed].filter(([path, value]) => writtenAt(file, path) !== value).map(([path, value]) => `${path} ${value}`);
  last.die();
  // Nothing that the server has stays behind.
  if (lost.length === 0 && copies.kept.size > 0) lost.push(`${copies.kept.size} copies left: ${[...copies.kept.keys()]}`);
  return lost.length > 0 ? [`seed ${seed}: lost ${lost.join(', ')}`, ...history] : [];
}

/** Opens a page, which waits a moment for pages that are going. */
async function opened(): Promise<Page> {
  const page = Page.open();
  await vi.advanceTimersByTimeAsync(500);
  return page;
}

/** Sequences of a run. */
const SEQUENCES = seeds(200, 10_000, [1719]);

it('every number that is typed is there in the end', async () => {
  for (const seed of SEQUENCES) {
    const lost = await play(seed);
    expect(lost.join('\n')).toBe('');
  }
});
