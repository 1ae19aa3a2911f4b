import { readTape, type Tape } from '@zygopod/core';
import { JUST_NOW } from '../drive/drive.ts';
import type { TuningWork } from '../tuning/context.ts';
import { createDocument } from '../work/deeds.ts';

/** Seconds that are looped where no span is measured. */
const LAST = 8;

/** What the tape bar does. */
export interface TapeDeeds {
  loop(): void;
  drive(): void;
  keep(): void;
  open(id: string): void;
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
  if (looped) work.$calipers.set(null);
  return looped ? null : 'That holds no tick that can be driven again.';
}

/** What a tape is called as long as nobody says otherwise. */
export function tapeName({ drive, editing }: TuningWork): string {
  const loop = drive.$loop.get();
  return loop && loop.tape.name !== JUST_NOW ? loop.tape.name : `${editing.$now.get().name} on ${drive.world.ground.name}`.slice(0, 120);
}

/** Keeps a tape on the server under a name; says why not. */
export async function keepTape(work: TuningWork, name: string): Promise<string | null> {
  const tape = work.drive.cut(name, work.$calipers.get());
  if (!tape) return 'Nothing has been driven yet.';
  const made = await createDocument('tapes', tape, `Driven with ${work.editing.$now.get().name}`);
  return 'why' in made ? made.why : null;
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

/** Fetches a kept tape and plays it on the ground at hand; says why not. */
export async function openTape(work: TuningWork, id: string): Promise<string | null> {
  try {
    const response = await fetch(`/api/v1/tapes/${id}`);
    const body = (await response.json()) as { file?: unknown; title?: string };
    if (!response.ok) return `${body.title ?? `The server said ${response.status}`}.`;
    const read = readTape(body.file);
    if (!read.ok) return `The tape cannot be read: ${read.faults[0]?.path} ${read.faults[0]?.found}.`;
    work.drive.loop(read.value as Tape);
    return null;
  } catch {
    return 'The server cannot be reached.';
  }
}
