import { judgeTargets, readGround, readTuning, type Snag, type Target, tuningSnags, VERSION } from '@zygopod/core';
import { Desk } from '../../workers/desk.ts';
import type { DrillsApi } from '../../workers/drills.ts';
import type { PicturesApi } from '../../workers/pictures.ts';
import { $theme, readInks } from '../chart/theme.ts';
import { chosenTargets, fetchTargets } from '../judging/targets.ts';
import { keptOr } from './kept.ts';
import type { ShelfItem } from './session.ts';

export const WIDTH = 180;
export const HEIGHT = 80;

/** Seconds after which a picture, or the drills of one tuning, are given up. */
const PATIENCE = 20;

/** How a tuning stands: targets met and missed, and the faults that were found. */
export interface Standing {
  met: number;
  missed: number;
  faults: number;
  /** The target set by which it is judged. */
  by: string;
}

type Listed = { id: string; ground: string | null };

/** Makes pictures and judgements of what is on a shelf, one after the other and away from the page, and keeps them. */
export class Pictures {
  readonly #desk = new Desk<PicturesApi>(() => new Worker(new URL('../../workers/pictures.ts', import.meta.url), { type: 'module' }));
  readonly #drills = new Desk<DrillsApi>(() => new Worker(new URL('../../workers/drills.ts', import.meta.url), { type: 'module' }));
  readonly #project: string;
  readonly #files = new Map<string, Promise<unknown>>();
  #grounds: Promise<Listed[]> | null = null;
  #tapes: Promise<Listed[]> | null = null;
  #last: Promise<unknown> = Promise.resolve();

  constructor(project: string) {
    this.#project = project;
  }

  stop(): void {
    this.#desk.stop();
    this.#drills.stop();
  }

  /** The picture of a document's newest revision, in the theme in force. */
  async picture(item: ShelfItem): Promise<Blob> {
    const ground = await this.#groundOf(item);
    const tape = item.kind === 'tape' ? item.id : item.kind === 'tuning' ? await this.#tapeOn(ground) : null;
    const key = ['picture', $theme.get(), hashOf(item), ground, tape, devicePixelRatio, VERSION].join(' ');
    const kept = await keptOr(key, () =>
      this.#inTurn(async () => {
        const [own, laid, hands] = await Promise.all([
          item.kind === 'tuning' ? this.#file('tunings', item.id) : item.kind === 'tape' ? plainTuning : null,
          item.kind === 'ground' ? this.#file('grounds', item.id) : ground ? this.#file('grounds', ground) : null,
          tape ? this.#file('tapes', tape) : null,
        ]);
        const asked = { tuning: own, ground: laid, tape: hands, inks: readInks(), width: WIDTH, height: HEIGHT, ratio: devicePixelRatio };
        return new Response(await this.#desk.call((remote) => remote.draw(asked), PATIENCE));
      }),
    );
    return kept.blob();
  }

  /** How a tuning stands against its targets, on its ground. */
  async standing(item: ShelfItem): Promise<Standing> {
    const ground = await this.#groundOf(item);
    const chosen = await chosenTargets(item.id);
    const found = chosen ? await fetchTargets(chosen) : null;
    const { set, id, head } = found && 'set' in found ? found : { set: null, id: '', head: 0 };
    const key = ['standing', hashOf(item), ground, id, head, VERSION].join(' ');
    const kept = await keptOr(key, () =>
      this.#inTurn(async () => Response.json(await this.#judge(item, ground, set?.targets ?? [], set?.name ?? ''))),
    );
    return (await kept.json()) as Standing;
  }

  async #judge(item: ShelfItem, ground: string | null, targets: readonly Target[], by: string): Promise<Standing> {
    const read = readTuning(await this.#file('tunings', item.id));
    if (!read.ok) throw new Error('it cannot be read');
    const laid = ground ? readGround(await this.#file('grounds', ground)) : null;
    const on = laid?.ok ? laid.value : null;
    const { metrics, snags } = await this.#drills.call((remote) => remote.judge(read.value.file, on), PATIENCE);
    const judged = judgeTargets(targets, metrics);
    const all: Snag[] = [...tuningSnags(read.value, on ?? undefined), ...snags];
    const faults = new Set(all.filter(({ severity }) => severity === 'fault').map(({ id }) => id));
    const count = (ok: boolean) => judged.filter((one) => one.ok === ok).length;
    return { met: count(true), missed: count(false), faults: faults.size, by };
  }

  /** The ground of a document: its own, else the project's first. */
  async #groundOf({ kind, ground, id }: ShelfItem): Promise<string | null> {
    if (kind === 'ground') return id;
    if (ground) return ground;
    this.#grounds ??= this.#list('grounds');
    return (await this.#grounds)[0]?.id ?? null;
  }

  async #tapeOn(ground: string | null): Promise<string | null> {
    this.#tapes ??= this.#list('tapes');
    return (await this.#tapes).find((tape) => tape.ground === ground)?.id ?? null;
  }

  /** The oldest documents of a kind. */
  async #list(kind: string): Promise<Listed[]> {
    const answer = await fetch(`/api/v1/projects/${this.#project}/shelf?kind=${kind}&sort=made&limit=200`);
    return answer.ok ? ((await answer.json()) as { items: Listed[] }).items.toReversed() : [];
  }

  #file(collection: string, id: string): Promise<unknown> {
    const path = `/api/v1/${collection}/${id}`;
    const known = this.#files.get(path);
    if (known) return known;
    const fetched = fetch(path).then(async (answer) => ((await answer.json()) as { file?: unknown }).file);
    this.#files.set(path, fetched);
    return fetched;
  }

  /** One after the other, so that what comes into sight is not behind what has left it for long. */
  #inTurn(work: () => Promise<Response>): Promise<Response> {
    const done = this.#last.then(work);
    this.#last = done.catch(() => undefined);
    return done;
  }
}

const plainTuning = { format: 'zygopod/tuning', version: 2, name: 'Plain' };

const hashOf = ({ id, revisions }: ShelfItem) => `${id} ${revisions[0]?.hash}`;
