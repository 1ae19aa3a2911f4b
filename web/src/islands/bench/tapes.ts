import { documentKinds, faultText, fileName, markOf, readJson, readTape } from '@zygopod/core';
import { download } from '../controls/download.ts';
import { JUST_NOW } from '../drive/drive.ts';
import type { KeptTape, TuningWork } from '../tuning/context.ts';
import { createDocument, fetchDocument, saveRevision } from '../work/documentActions.ts';

/** Seconds that are looped where no span is measured. */
const LAST = 8;

/** Actions of the tape bar. */
export interface TapeActions {
  loop(): void;
  drive(): void;
  keep(): void;
  open(id: string): void;
  /** Opens the hands that are looped to be edited; where none are, the last seconds are looped first. */
  edit(): void;
  /** Begins a tape that is written by hand. */
  write(): void;
  /** Loops the drive that ended with the last restart. */
  earlier(): void;
  /** Brings a tape in from a file. */
  importFile(): void;
  /** Gives what is looped, or all that is recorded, as a file. */
  exportFile(): void;
  /** Shows the revisions of the kept tape that is looped. */
  history(): void;
}

/** The span that a loop takes: the calipers', else the last seconds. */
function spanOf({ drive, $calipers }: TuningWork): { from: number; to: number } {
  const { trace } = drive.world;
  const newest = trace.at('time', trace.end - 1);
  return $calipers.get() ?? { from: Math.max(trace.at('time', trace.first), newest - LAST), to: newest };
}

/** Plays what was driven last over and over; says why not. */
export function loopLast(work: TuningWork): string | null {
  if (work.drive.world.parameters.clock.stepping === 'perFrame')
    return 'This tuning steps per frame: such a drive is not the same again. Choose fixed stepping in Clock.';
  const looped = work.drive.loop(spanOf(work));
  if (looped) {
    work.$calipers.set(null);
    work.$kept.set(null);
  }
  return looped ? null : 'Nothing to loop in this span.';
}

/** Default name of a tape. */
export function tapeName({ drive, editing, $kept }: TuningWork): string {
  const loop = drive.$loop.get();
  const kept = $kept.get();
  if (loop && kept) return kept.name;
  return loop && loop.tape.name !== JUST_NOW ? loop.tape.name : `${editing.$now.get().name} on ${drive.world.ground.name}`.slice(0, 120);
}

/** Keeps a tape on the server under a name; says why not. */
export async function keepTape(work: TuningWork, name: string): Promise<string | null> {
  const tape = work.drive.cut(name, work.$calipers.get());
  if (!tape) return 'Nothing has been driven yet.';
  const created = await createDocument('tapes', tape, `Driven with ${work.editing.$now.get().name}`);
  if ('why' in created) return created.why;
  if (work.drive.$loop.get()?.tape.ticks === tape.ticks) work.$kept.set({ id: created.id, head: 1, name });
  return null;
}

/** Plays the tape that an address names (`tape`), held at the moment that it names (`at`, s since the tape's beginning); says why not. */
export async function openNamed(work: TuningWork, search: string): Promise<string | null> {
  const query = new URLSearchParams(search);
  const [id] = (query.get('tape') ?? '').split('.');
  if (!id) return null;
  const why = await openTape(work, id);
  const at = Number.parseFloat(query.get('at') ?? '');
  const loop = work.drive.$loop.get();
  if (loop && Number.isFinite(at)) loop.goTo(loop.world.trace.rowAt(loop.begins + at));
  return why;
}

/** Plays a tape from a file or an answer of the server; says what is wrong with it. */
export function playTape(work: TuningWork, file: unknown, kept: KeptTape | null): string | null {
  const read = readTape(file);
  if (!read.ok) return `The tape cannot be read: ${read.faults.slice(0, 3).map(faultText).join('; ')}.`;
  work.$calipers.set(null);
  work.drive.loop(read.value);
  work.$kept.set(kept);
  const unknown = work.drive.$loop.get()?.unknown ?? [];
  return unknown.length === 0
    ? null
    : `This tape begins with the state of a body of another version (${unknown.join(', ')}): it only begins near where it did.`;
}

/** Fetches a kept tape, or one of its revisions, and plays it on the ground at hand; says why not. */
export async function openTape(work: TuningWork, id: string, revision: number | null = null): Promise<string | null> {
  const newest = await fetchDocument('tapes', id);
  if ('why' in newest) return newest.why;
  const kept = { id, head: newest.revision, name: (newest.file as { name: string }).name };
  if (revision === null || revision === kept.head) return playTape(work, newest.file, kept);
  const older = await fetchDocument('tapes', id, revision);
  return 'why' in older ? older.why : playTape(work, older.file, kept);
}

/** Saves what is looped as the next revision of the kept tape that it was; says why not. */
export async function saveTapeRevision(work: TuningWork): Promise<string | null> {
  const kept = work.$kept.get();
  const loop = work.drive.$loop.get();
  if (!kept || !loop) return 'No kept tape is looped.';
  const saved = await saveRevision('tapes', kept.id, kept.head, { ...loop.tape, name: kept.name }, 'Edited by hand');
  if ('why' in saved) return saved.why;
  work.$kept.set({ ...kept, head: saved.number });
  return null;
}

/** The tape of a file that was chosen or dropped; says what is wrong with it. */
export async function importTape(work: TuningWork, file: File): Promise<string | null> {
  if (file.size > documentKinds.tape.largest)
    return `${file.name} has ${file.size} bytes; a tape has at most ${documentKinds.tape.largest}.`;
  const json = readJson(await file.text());
  if (!json.ok) return `${file.name} isn’t JSON: ${json.faults.map(faultText).join('; ')}.`;
  if (markOf(json.value) !== 'zygopod/tape') return `${file.name} is no tape: its format is not zygopod/tape.`;
  return playTape(work, json.value, null);
}

/** Gives what is looped, or all that is recorded, as a file; says why not. */
export function exportTape(work: TuningWork): string | null {
  const tape = work.drive.cut(tapeName(work), work.$calipers.get());
  if (!tape) return 'Nothing has been driven yet.';
  download(fileName('tape', tape.name), `${JSON.stringify(tape, null, 1)}\n`);
  return null;
}
