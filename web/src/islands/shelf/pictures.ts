import { type Collection, judgeTargets, readGround, readTuning, type Snag, type Target, tuningSnags, VERSION } from '@zygopod/core';
import { atom } from 'nanostores';
import { Desk } from '../../workers/desk.ts';
import type { DrillsApi } from '../../workers/drills.ts';
import type { PicturesApi } from '../../workers/pictures.ts';
import { $theme, readInks } from '../chart/theme.ts';
import { chooseTargets, fetchTargets, listSets } from '../judging/targets.ts';
import { fetchDocument } from '../work/documentActions.ts';
import { askServer } from '../work/server.ts';
import { keptOr } from './kept.ts';
import type { ShelfItem } from './shelfWork.ts';

export const WIDTH = 180;
export const HEIGHT = 80;

/** Seconds after which a picture, or the drills of one tuning, are given up. */
const PATIENCE = 20;

/** Milliseconds after which drills are run though there is no picture yet. */
const LATEST = 2000;

/** How a tuning stands: targets met and missed, and the faults that were found. */
export interface Standing {
  met: number;
  missed: number;
  faults: number;
  /** The target set by which it is judged. */
  by: string;
}

type Listed = { id: string; ground: string | null; head: number };
/** A document at a revision. */
type At = { id: string; head: number };

/** Makes pictures and drill results of the shelf's documents in workers, one after the other, and caches them. */
export class Pictures {
  readonly #desk = new Desk<PicturesApi>(() => new Worker(new URL('../../workers/pictures.ts', import.meta.url), { type: 'module' }));
  readonly #drills = new Desk<DrillsApi>(() => new Worker(new URL('../../workers/drills.ts', import.meta.url), { type: 'module' }));
  readonly #project: string;
  readonly #isLeft: () => boolean;
  /** Increases with every change: earlier results may be of other revisions. */
  readonly $stamp = atom(0);
  readonly #files = new Map<string, Promise<unknown>>();
  #grounds: Promise<Listed[]> | null = null;
  #tapes: Promise<Listed[]> | null = null;
  #sets: ReturnType<typeof listSets> | null = null;
  readonly #targets = new Map<string, ReturnType<typeof fetchTargets>>();
  /** The ends of the two queues: a picture never waits for the drills of another tuning. */
  readonly #last: Record<'picture' | 'standing', Promise<unknown>>;
  /** Called once there is a picture. */
  #begun: () => void = () => undefined;

  /** Nothing is requested while the page `isLeft`. */
  constructor(project: string, isLeft: () => boolean) {
    this.#project = project;
    this.#isLeft = isLeft;
    // The worker loads while the page fetches its input. Drills, which take a core each, come after the first picture.
    this.#desk.start();
    const first = new Promise<void>((begun) => {
      this.#begun = begun;
      setTimeout(begun, LATEST);
    });
    this.#last = { picture: Promise.resolve(), standing: first };
  }

  stop(): void {
    this.#desk.stop();
    this.#drills.stop();
  }

  /** Invalidates lists after a change. */
  look(): void {
    this.#grounds = this.#tapes = this.#sets = null;
    this.#targets.clear();
    this.$stamp.set(this.$stamp.get() + 1);
  }

  /** The picture of a document's newest revision, in the theme in force. */
  async picture(item: ShelfItem): Promise<Blob> {
    // A tuning's picture needs both lists: they come at the same time.
    if (item.kind === 'tuning') this.#tapes ??= this.#list('tapes');
    const ground = await this.#groundOf(item);
    const tape = item.kind === 'tape' ? item : item.kind === 'tuning' ? await this.#tapeOn(ground) : null;
    const key = ['picture', $theme.get(), hashOf(item), atOf(ground), atOf(tape), devicePixelRatio, VERSION].join(' ');
    const picture = keptOr(key, () =>
      this.#inTurn('picture', async () => {
        const [own, laid, hands] = await Promise.all([
          item.kind === 'tuning' ? this.#file('tunings', item) : item.kind === 'tape' ? plainTuning : null,
          ground ? this.#file('grounds', ground) : null,
          tape ? this.#file('tapes', tape) : null,
        ]);
        const request = { tuning: own, ground: laid, tape: hands, inks: readInks(), width: WIDTH, height: HEIGHT, ratio: devicePixelRatio };
        return this.#desk.call((remote) => remote.draw(request), PATIENCE);
      }),
    );
    void picture.finally(() => this.#begun()).catch(() => undefined);
    return picture;
  }

  /** How a tuning stands against its targets, on its ground. */
  async standing(item: ShelfItem): Promise<Standing> {
    const ground = await this.#groundOf(item);
    this.#sets ??= listSets();
    const found = await this.#targetsOf(chooseTargets(await this.#sets, item.id));
    const { set, id, head } = found && 'set' in found ? found : { set: null, id: '', head: 0 };
    const key = ['standing', hashOf(item), atOf(ground), id, head, VERSION].join(' ');
    const kept = await keptOr(key, () =>
      this.#inTurn(
        'standing',
        async () => new Blob([JSON.stringify(await this.#judge(item, ground, set?.targets ?? [], set?.name ?? ''))]),
      ),
    );
    return JSON.parse(await kept.text()) as Standing;
  }

  #targetsOf(id: string | null): ReturnType<typeof fetchTargets> | null {
    if (id === null) return null;
    const known = this.#targets.get(id) ?? fetchTargets(id);
    this.#targets.set(id, known);
    return known;
  }

  async #judge(item: ShelfItem, ground: At | null, targets: readonly Target[], by: string): Promise<Standing> {
    const read = readTuning(await this.#file('tunings', item));
    if (!read.ok) throw new Error('it cannot be read');
    const laid = ground ? readGround(await this.#file('grounds', ground)) : null;
    const on = laid?.ok ? laid.value : null;
    const { metrics, absent, snags } = await this.#drills.call((remote) => remote.judge(read.value.file, on), PATIENCE);
    const judged = judgeTargets(targets, metrics, absent);
    const all: Snag[] = [...tuningSnags(read.value, on ?? undefined), ...snags];
    const faults = new Set(all.filter(({ severity }) => severity === 'fault').map(({ id }) => id));
    const count = (ok: boolean) => judged.filter((one) => one.ok === ok).length;
    return { met: count(true), missed: count(false), faults: faults.size, by };
  }

  /** The ground of a document: its own, else the project's first. */
  async #groundOf(item: ShelfItem): Promise<At | null> {
    if (item.kind === 'ground') return item;
    this.#grounds ??= this.#list('grounds');
    const all = await this.#grounds;
    const { ground: id } = item;
    if (id === null) return all[0] ?? null;
    const listed = all.find((one) => one.id === id);
    if (listed) return listed;
    // Of another project, or beyond those that are listed.
    const kept = await fetchDocument('grounds', id);
    return 'why' in kept ? null : { id, head: kept.revision };
  }

  async #tapeOn(ground: At | null): Promise<At | null> {
    this.#tapes ??= this.#list('tapes');
    return (await this.#tapes).find((tape) => tape.ground === (ground?.id ?? null)) ?? null;
  }

  /** The oldest documents of a kind. */
  async #list(kind: string): Promise<Listed[]> {
    const path = `/api/v1/projects/${this.#project}/shelf?kind=${kind}&sort=made&limit=200`;
    const answer = await askServer<{ items: Listed[] }>('GET', path);
    return 'why' in answer ? [] : answer.body.items.toReversed();
  }

  /** Fetches the file of a document at a revision, which never changes; failures are retried. */
  async #file(collection: Collection, { id, head }: At): Promise<unknown> {
    const key = `${collection} ${id} ${head}`;
    const known = this.#files.get(key);
    if (known) return known;
    const fetched = fetchDocument(collection, id, head).then((kept) => {
      if ('file' in kept) return kept.file;
      this.#files.delete(key);
      throw new Error(kept.why);
    });
    this.#files.set(key, fetched);
    return fetched;
  }

  /** Runs work one at a time. */
  #inTurn(queue: 'picture' | 'standing', work: () => Promise<Blob>): Promise<Blob> {
    const done = this.#last[queue].then(() => {
      if (this.#isLeft()) throw new Error('the page is being left');
      return work();
    });
    this.#last[queue] = done.catch(() => undefined);
    return done;
  }
}

const plainTuning = { format: 'zygopod/tuning', version: 2, name: 'Plain' };

const atOf = (at: At | null) => (at ? `${at.id}.${at.head}` : 'none');
const hashOf = ({ id, revisions }: ShelfItem) => `${id} ${revisions[0]?.hash}`;
