import type { Browser, BrowserContext, Page } from 'playwright-core';
import type { Dice } from './dice.ts';
import { Network, networks } from './network.ts';
import { fillStorage, useNotices } from './pageState.ts';

/**
 * A person who types numbers on the bench, in tabs that are reloaded, closed and opened, on a network that fails, in a browser without room, with
 * somebody else at the same tuning, at a server that may be killed. Every number ends on the server, or was seen in a notice that offers it.
 */

/** Fields of the bench: the figure, the label, the parameter, and a number from which values are counted. */
const fields = [
  ['pace', 'Walk', 'pace.walkSpeed', 150],
  ['stamina', 'Drain', 'stamina.drain', 30],
  ['stamina', 'Regain', 'stamina.regain', 40],
  ['body', 'Radius', 'body.radius', 14],
  ['steps', 'Cell', 'step.cell', 50],
] as const;
type Field = (typeof fields)[number];

type File = Record<string, unknown>;
interface Kept {
  file: File;
  version: number;
  base: number;
}

interface Typed {
  field: Field;
  value: number;
  /** Written over by somebody who saw it. */
  isOver: boolean;
}

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));
const valueAt = (file: File, path: string) =>
  path.split('.').reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], file);

function withValue(file: File, path: string, value: number): File {
  const copy = structuredClone(file);
  const [group, key] = path.split('.') as [string, string];
  copy[group] = { ...(copy[group] as object | undefined), [key]: value };
  return copy;
}

export class Typist {
  /** The steps so far, in words. */
  readonly history: string[] = [];
  readonly #address: string;
  readonly #dice: Dice;
  readonly #context: BrowserContext;
  readonly #typed: Typed[] = [];
  /** Texts of all notices so far. */
  readonly #seen: string[] = [];
  readonly #network: Network;
  #isFull = false;
  #isArchived = false;
  #pages: Page[] = [];
  #id = '';
  #number = 0;

  private constructor(address: string, dice: Dice, context: BrowserContext, network: Network) {
    this.#address = address;
    this.#dice = dice;
    this.#context = context;
    this.#network = network;
  }

  /** Numbers that were typed. */
  get typed(): number {
    return this.#typed.length;
  }

  /** Plays one sequence of `steps` steps in a browser context of its own. Returns the numbers that were lost. */
  static async play(browser: Browser, address: string, dice: Dice, steps: number): Promise<{ lost: string[]; typist: Typist }> {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const typist = new Typist(address, dice, context, await Network.of(context));
    try {
      await typist.#begin();
      for (let step = 0; step < steps; step++) await typist.#step();
      return { lost: await typist.#lost(), typist };
    } finally {
      await context.close();
    }
  }

  async #begin(): Promise<void> {
    const file = { format: 'zygopod/tuning', version: 2, name: 'Boots that are typed' };
    this.#id = ((await this.#ask('POST', '', { file })) as { id: string }).id;
    await this.#open();
  }

  /** Asks the server itself, past the network of the pages, until it answers. */
  async #ask(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<unknown> {
    for (let left = 200; left > 0; left--) {
      const answer = await fetch(`${this.#address}/api/v1/tunings${path}`, {
        method,
        headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
        body: body === undefined ? null : JSON.stringify(body),
        signal: AbortSignal.timeout(15_000),
      }).catch(() => null);
      if (answer?.ok) return answer.status === 204 ? {} : answer.json();
      if (answer && answer.status < 500) return null;
      await pause(200);
    }
    throw new Error(`${method} ${path}: the server is away`);
  }

  /** Opens the tuning in a tab, again until the server is there. */
  async #open(): Promise<void> {
    await this.#restore();
    this.#pages.push(await this.#context.newPage());
    await this.#load(this.#pages.at(-1) as Page);
  }

  async #load(page: Page): Promise<void> {
    for (let left = 60; left > 0; left--) {
      const answer = await page.goto(`${this.#address}/bench/${this.#id}`).catch(() => null);
      if (answer?.ok() && (await this.#isReady(page))) return;
      await pause(300);
    }
    throw new Error('the bench does not open');
  }

  #isReady(page: Page): Promise<boolean> {
    return page
      .locator('[data-testid=now-at]:not(:empty)')
      .waitFor({ timeout: 15_000 })
      .then(
        () => true,
        () => false,
      );
  }

  async #step(): Promise<void> {
    const dice = this.#dice;
    const page = dice.one(this.#pages);
    const what = dice.next();
    if (what < 0.4) await this.#type(page);
    else if (what < 0.48) await this.#somebody();
    else if (what < 0.64) await this.#leave(page);
    else if (what < 0.7) {
      if (this.#pages.length > 1) return;
      this.history.push('opens a second tab');
      await this.#open();
    } else if (what < 0.9) {
      const condition = dice.one(networks);
      await this.#network.become(condition);
      this.history.push(`the network is ${condition}`);
      await pause(dice.below(1500));
    } else if (what < 0.95) await this.#fill(!this.#isFull);
    else if (this.#isArchived) await this.#restore();
    else await this.#archive();
  }

  async #type(page: Page): Promise<void> {
    const field = this.#dice.one(fields);
    const [figure, label, , from] = field;
    const value = from + ++this.#number;
    const box = page.locator(`#figure-${figure}`).getByRole('textbox', { name: new RegExp(`^${label}`) });
    this.#writtenOver(field, Number(await box.inputValue()));
    const end = this.#dice.one(['Enter', 'blur', 'nothing'] as const);
    this.history.push(`tab ${this.#pages.indexOf(page)} types ${label} ${value}, then ${end}`);
    await box.fill(String(value));
    this.#typed.push({ field, value, isOver: false });
    if (end === 'Enter') await box.press('Enter');
    if (end === 'blur') await box.blur();
    if (this.#dice.is(0.5)) await pause(this.#dice.below(1200));
  }

  /** Marks a number as replaced by somebody who saw it. */
  #writtenOver(field: Field, shown: unknown): void {
    for (const one of this.#typed) if (one.field === field && one.value === shown) one.isOver = true;
  }

  /** Somebody else changes a number of the newest state, in the draft or by a revision. */
  async #somebody(): Promise<void> {
    if (this.#isArchived) return;
    const document = (await this.#ask('GET', `/${this.#id}`)) as { head: number; file: File };
    const draft = (await this.#ask('GET', `/${this.#id}/draft`)) as Kept | null;
    // A draft on an older revision is for those who merge.
    if (draft && draft.base < document.head) return;
    const field = this.#dice.one(fields);
    const value = field[3] + ++this.#number;
    const now = draft?.file ?? document.file;
    const saves = this.#dice.is(0.5);
    const file = withValue(now, field[2], value);
    const done = saves
      ? await this.#ask(
          'POST',
          `/${this.#id}/revisions`,
          { file, ...(draft && { draft: `"${draft.version}"` }) },
          { 'if-match': `"${document.head}"` },
        )
      : await this.#ask(
          'PUT',
          `/${this.#id}/draft`,
          { file, base: document.head },
          draft ? { 'if-match': `"${draft.version}"` } : { 'if-none-match': '*' },
        );
    if (!done) return;
    this.history.push(`somebody ${saves ? 'saves' : 'drafts'} ${field[1]} ${value}`);
    this.#writtenOver(field, valueAt(now, field[2]));
    this.#typed.push({ field, value, isOver: false });
  }

  async #archive(): Promise<void> {
    const { head } = (await this.#ask('GET', `/${this.#id}`)) as { head: number };
    if (!(await this.#ask('DELETE', `/${this.#id}`, undefined, { 'if-match': `"${head}"` }))) return;
    this.history.push('somebody archives it');
    this.#isArchived = true;
  }

  async #restore(): Promise<void> {
    if (!this.#isArchived) return;
    this.history.push('somebody restores it');
    await this.#ask('POST', `/${this.#id}/back`);
    this.#isArchived = false;
  }

  /** Uses up the browser's storage for the application, or frees it. */
  async #fill(isFull: boolean): Promise<void> {
    if (this.#isFull === isFull) return;
    this.history.push(isFull ? 'the browser is full' : 'the browser has room');
    await fillStorage(this.#context, this.#pages[0] as Page, this.#address, isFull);
    this.#isFull = isFull;
  }

  /** Reloads or closes a tab, or has it die; the person stays where the page asks. */
  async #leave(page: Page): Promise<void> {
    await this.#restore();
    const how = this.#dice.one(['reloads', 'reloads', 'closes', 'dies'] as const);
    if (how === 'dies' && this.#isFull) return;
    this.history.push(`tab ${this.#pages.indexOf(page)} ${how}`);
    if (how === 'dies') {
      // Give the browser's database a moment to store the last number.
      await pause(500);
      await page.close();
    } else if (await this.#asks(page, how)) {
      this.history.push('… and is asked to stay');
      return;
    }
    if (how === 'reloads') {
      if (!(await this.#isReady(page))) await this.#load(page);
      return;
    }
    this.#pages = this.#pages.filter((other) => other !== page);
    if (this.#pages.length === 0) await this.#open();
  }

  /** Leaves a page. Returns true if the page asked for confirmation. */
  async #asks(page: Page, how: 'reloads' | 'closes'): Promise<boolean> {
    let isHeld = false;
    let isGone = false;
    page.once('dialog', (dialog) => {
      isHeld = true;
      void dialog.dismiss().catch(() => undefined);
    });
    if (how === 'closes') void page.close({ runBeforeUnload: true }).catch(() => undefined);
    else {
      page.once('domcontentloaded', () => {
        isGone = true;
      });
      void page.evaluate(() => window.location.reload()).catch(() => undefined);
    }
    for (let left = 600; left > 0 && !isHeld && !isGone && !page.isClosed(); left--) await pause(30);
    if (!isHeld && !isGone && !page.isClosed()) throw new Error(`a page neither ${how} nor asks`);
    return isHeld;
  }

  /** Has a page send its work: merges on request, and uses what is offered. Records its notices. */
  async #settle(page: Page): Promise<void> {
    for (let quiet = 0, left = 150; quiet < 4 && left > 0; left--) {
      const { texts, isPressed } = await useNotices(page);
      this.#seen.push(...texts);
      // A number that became another one while it was being typed waits for a word.
      const open = page.locator('input[aria-invalid="true"]').first();
      if ((await open.count()) > 0) await open.press('Enter', { timeout: 2000 }).catch(() => undefined);
      const state = await page.getByTestId('save-state').getAttribute('data-state');
      quiet = !isPressed && (state === 'draft' || state === 'saved') ? quiet + 1 : 0;
      await pause(200);
    }
  }

  /** Restores network, storage and document, closes all pages, opens one, and accepts its offers. Returns the numbers found nowhere. */
  async #lost(): Promise<string[]> {
    await this.#restore();
    await this.#network.become('online');
    await this.#fill(false);
    for (const page of this.#pages) await this.#settle(page);
    for (const page of this.#pages)
      for (let left = 20; left > 0 && (await this.#asks(page, 'closes')); left--) {
        if (left === 1) return ['a page asks to stay for ever'];
        await this.#settle(page);
      }
    this.#pages = [];
    await this.#open();
    const [last] = this.#pages;
    // Offers of pages that are just going come a moment later.
    await pause(600);
    await this.#settle(last as Page);
    const draft = (await this.#ask('GET', `/${this.#id}/draft`)) as Kept | null;
    const { file } = draft ?? ((await this.#ask('GET', `/${this.#id}`)) as { file: File });
    const seen = this.#seen.join('\n');
    return this.#typed
      .filter(({ field, value, isOver }) => !isOver && valueAt(file, field[2]) !== value && !new RegExp(`\\b${value}\\b`).test(seen))
      .map(({ field, value }) => `${field[1]} ${value} (there ${valueAt(file, field[2])})`);
  }
}
