import { axisText, drivenTapes, type QueuedSweep, readSweep, type Sweep, type SweepFile, wholeChunk } from '@zygopod/core';
import { atom } from 'nanostores';
import { createDocument, fetchDocument, saveRevision } from '../work/documentActions.ts';
import { inProject } from '../work/project.ts';
import { askServer } from '../work/server.ts';
import { KEPT, readChoice } from './choice.ts';
import { bytesOf, needsGround, takeChunks } from './queue.ts';
import type { SweepWork } from './sweepWork.ts';

/** A sweep's document. */
interface Kept {
  id: string;
  name: string;
  head: number;
}

/** A document that a sweep was measured from; revision 0: with changes that were in none. */
interface From {
  id: string;
  revision: number;
}

/** The result of a kept sweep, as the API has it. */
interface Result {
  revision: number;
  changed: string[];
  run: string | null;
  measured: { values: string; met: string; holes: Sweep['holes'] } | null;
}

const base64 = (bytes: Uint8Array): string => {
  let text = '';
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192));
  return btoa(text);
};

/** The newest document of the page's project with a name, or why there is none. */
async function idOf(collection: 'tunings' | 'tapes', name: string): Promise<{ id: string } | { why: string }> {
  const query = new URLSearchParams({ limit: '50', q: name, ...inProject() });
  const page = await askServer<{ items: { id: string; name: string }[] }>('GET', `/api/v1/${collection}?${query}`);
  if ('why' in page) return { why: page.why };
  const own = page.body.items.find((item) => item.name === name);
  return own ? { id: own.id } : { why: `No ${collection.slice(0, -1)} of this project is called “${name}”.` };
}

/** The sweeps that are kept as documents: definitions, with their results apart. */
export class KeptSweeps {
  readonly #sweep: SweepWork;
  /** The document that the choice was opened from, or saved as. */
  readonly $open = atom<Kept | null>(null);
  /** Counts the changes of the list. */
  readonly $saved = atom(0);

  constructor(sweep: SweepWork) {
    this.#sweep = sweep;
  }

  /** Changes since the results were measured, in words. */
  changedWords(): string[] {
    const { work, $targets, $kept } = this.#sweep;
    const words = (id: string) =>
      id === work.opening.tuning.id
        ? 'The tuning has changed since.'
        : id === $targets.get()?.id
          ? 'The targets have changed since.'
          : id === 'core'
            ? 'Measured by another version of Zygopod.'
            : 'What it was measured from has changed since.';
    return [...new Set(($kept.get()?.changed ?? []).map(words))];
  }

  /** Saves the choice under a name, as the next revision of the open sweep if that has this name, with its results if they are whole; says why not. */
  async save(name: string): Promise<string | null> {
    const sweep = this.#sweep;
    const chosen = sweep.defined();
    if (!chosen) return sweep.$faults.get().join(' ');
    const swept = sweep.$swept.get();
    const measured = swept && !sweep.isOther(swept, sweep.$choice.get()) && swept.sweep.done === swept.sweep.cells ? swept.sweep : null;
    const file = this.#fileOf(name, measured ?? chosen);
    const before = this.$open.get();
    const saved =
      before?.name === name ? await saveRevision('sweeps', before.id, before.head, file, '') : await createDocument('sweeps', file);
    if ('why' in saved) return saved.why;
    const kept = 'id' in saved ? { id: saved.id, name, head: 1 } : { id: before?.id as string, name, head: saved.number };
    this.$open.set(kept);
    const why = measured ? await this.#keepResult(kept, measured) : null;
    this.$saved.set(this.$saved.get() + 1);
    return why;
  }

  #fileOf(name: string, chosen: Sweep): SweepFile {
    const { work, $targets } = this.#sweep;
    const { axes, metrics, targets } = chosen.definition;
    const set = $targets.get()?.set;
    return {
      format: 'zygopod/sweep',
      version: 1,
      name,
      note: '',
      tuning: { name: work.editing.$before.get().name, revision: Math.max(1, work.saving.$head.get()) },
      ...(needsGround(chosen) ? { ground: work.drive.world.ground.name } : {}),
      ...(drivenTapes(chosen.definition).length > 0 ? { tapes: drivenTapes(chosen.definition).map((tape) => tape.name) } : {}),
      ...(set && targets.length > 0 ? { targets: set.name } : {}),
      over: axes.map(axisText),
      metrics: [...metrics],
    };
  }

  /** The documents that a sweep was measured from. */
  #fromOf(measured: Sweep): From[] {
    const { work, $targets, $tape } = this.#sweep;
    const tape = $tape.get();
    const isSaved = JSON.stringify(measured.definition.tuning.file) === JSON.stringify(work.editing.$before.get());
    const { ground, tuning } = work.opening;
    const targets = $targets.get();
    return [
      { id: tuning.id, revision: isSaved ? work.saving.$head.get() : 0 },
      ...(targets && measured.definition.targets.length > 0 ? [{ id: targets.id, revision: targets.head }] : []),
      ...(needsGround(measured) && ground.head > 0 ? [{ id: ground.id, revision: ground.draft ? 0 : ground.head }] : []),
      ...(tape && drivenTapes(measured.definition).length > 0 ? [{ id: tape.id, revision: tape.head }] : []),
    ];
  }

  async #keepResult({ id, head }: Kept, measured: Sweep): Promise<string | null> {
    const run = this.#sweep.$progress.get().on?.id ?? this.#sweep.$kept.get()?.run ?? null;
    const { values, met, holes } = wholeChunk(measured);
    const result = run ? null : { values: base64(new Uint8Array(values.buffer)), met: base64(met), holes };
    const answer = await askServer<Result>('PUT', `/api/v1/sweeps/${id}/result`, {
      body: { revision: head, from: this.#fromOf(measured), run, measured: result },
    });
    if ('why' in answer) return `The sweep is kept, its results aren’t: ${answer.why}`;
    this.#sweep.setKept({ id, changed: answer.body.changed, run });
    return null;
  }

  /** Opens the kept sweep of the page's address; false if there is none, or it can't be opened. */
  async openAddressed(): Promise<boolean> {
    const id = new URLSearchParams(window.location.search).get(KEPT);
    if (!id) return false;
    const why = await this.open(id);
    if (why === null) return true;
    this.#sweep.setKept(null);
    this.#sweep.$trouble.set(why);
    return false;
  }

  /** Opens a kept sweep with its results; runs it if there are none. One of another tuning is opened on that. Says why not. */
  async open(id: string): Promise<string | null> {
    const sweep = this.#sweep;
    const fetched = await fetchDocument('sweeps', id);
    if ('why' in fetched) return fetched.why;
    const read = readSweep(fetched.file);
    if (!read.ok) return `The sweep can’t be read: ${read.faults[0]?.path} ${read.faults[0]?.found}.`;
    const { name, tuning, over, metrics, tapes = [] } = read.value;
    if (tuning.name !== sweep.work.editing.$before.get().name) return this.#openOn(tuning.name, id);
    const { metrics: known } = readChoice(`?${new URLSearchParams(metrics.map((key) => ['metric', key]))}`);
    const tape = tapes[0] === undefined ? null : await idOf('tapes', tapes[0]);
    if (tape && 'why' in tape) return tape.why;
    await sweep.takeTape(tape?.id ?? null);
    sweep.choose({ over, metrics: known, shown: known[0] ?? 'met' });
    this.$open.set({ id, name, head: fetched.revision });
    const answer = await askServer<Partial<Result>>('GET', `/api/v1/sweeps/${id}/result`);
    if ('why' in answer) return answer.why;
    const defined = sweep.defined();
    const { revision, changed = [], run = null, measured } = answer.body;
    if (!defined || revision !== fetched.revision || !(await this.#takeResult(defined, { run, measured: measured ?? null }))) {
      sweep.run();
      return null;
    }
    sweep.show(defined);
    sweep.setKept({ id, changed, run });
    return null;
  }

  /** Takes the stored cells of a sweep; false if there are none. */
  async #takeResult(sweep: Sweep, { run, measured }: Pick<Result, 'run' | 'measured'>): Promise<boolean> {
    if (measured) {
      const { values, met, holes } = measured;
      sweep.take({ cells: sweep.chunk(0, sweep.cells), values: new Float64Array(bytesOf(values).buffer), met: bytesOf(met), holes });
    } else if (run) {
      const answer = await askServer<QueuedSweep>('GET', `/api/v1/sweep-runs/${run}`);
      if ('why' in answer || answer.body.cells !== sweep.cells) return false;
      await takeChunks(sweep, answer.body, 0);
    }
    return sweep.done > 0 && sweep.done === sweep.cells;
  }

  /** Opens a kept sweep on the tuning that it is of. */
  async #openOn(tuning: string, id: string): Promise<string | null> {
    const own = await idOf('tunings', tuning);
    if ('why' in own) return own.why;
    window.location.assign(`/sweep/${own.id}?${new URLSearchParams({ [KEPT]: id })}`);
    return null;
  }
}
