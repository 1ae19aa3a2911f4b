import { type Ground, type Reading, readGround, readTape, readTuning, type Tape, type Tuning } from '@zygopod/core';
import type { Collection } from '../work/listing.ts';
import type { Ref } from './address.ts';

/** A file that was fetched: its revision, and whether it is work that is in none. */
export interface Fetched<T> {
  value: T;
  revision: number;
  isDraft: boolean;
}

type Answer<T> = { ok: true; fetched: Fetched<T> } | { ok: false; why: string };

async function fetchFile<T>(collection: Collection, { id, revision }: Ref, read: (file: unknown) => Reading<T>): Promise<Answer<T>> {
  const one = collection.slice(0, -1);
  try {
    const response = await fetch(`/api/v1/${collection}/${id}${revision === null ? '' : `/revisions/${revision}`}`);
    const body = (await response.json()) as { file?: unknown; title?: string; head?: number; number?: number };
    if (!response.ok) return { ok: false, why: `${body.title ?? `The server said ${response.status} about a ${one}`}.` };
    const reading = read(body.file);
    if (!reading.ok) return { ok: false, why: `The ${one} cannot be read: ${reading.faults[0]?.path} ${reading.faults[0]?.found}.` };
    return { ok: true, fetched: { value: reading.value, revision: body.number ?? body.head ?? 1, isDraft: false } };
  } catch {
    return { ok: false, why: `The ${one} cannot be fetched: the server does not answer.` };
  }
}

export const fetchTuning = (ref: Ref): Promise<Answer<Tuning>> => fetchFile('tunings', ref, readTuning);
export const fetchGround = (ref: Ref): Promise<Answer<Ground>> => fetchFile('grounds', ref, readGround);
export const fetchTape = (ref: Ref): Promise<Answer<Tape>> => fetchFile('tapes', ref, readTape);

/** What else a tuning can be held against where nobody says: the one whose name is most like its own, else the oldest other one. */
export async function likeliestOther(id: string, name: string): Promise<string | null> {
  try {
    const response = await fetch('/api/v1/tunings?limit=200');
    const { items } = (await response.json()) as { items: { id: string; name: string }[] };
    const alike = (other: string) => {
      let count = 0;
      while (count < name.length && name[count] === other[count]) count++;
      return count;
    };
    const others = items.filter((item) => item.id !== id && item.name !== name).toReversed();
    return others.sort((a, b) => alike(b.name) - alike(a.name))[0]?.id ?? null;
  } catch {
    return null;
  }
}
