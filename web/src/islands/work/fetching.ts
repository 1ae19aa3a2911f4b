import { type Collection, type Ground, type Reading, readGround, readTape, readTuning, type Tape, type Tuning } from '@zygopod/core';
import type { Ref } from './comparison.ts';
import { fetchDocument } from './documentActions.ts';
import { inProject } from './project.ts';
import { askServer } from './server.ts';

/** A file that was fetched: its revision, and whether it is work that is in none. */
export interface Fetched<T> {
  value: T;
  revision: number;
  isDraft: boolean;
}

type Answer<T> = { ok: true; fetched: Fetched<T> } | { ok: false; why: string };

async function fetchFile<T>(collection: Collection, { id, revision }: Ref, read: (file: unknown) => Reading<T>): Promise<Answer<T>> {
  const one = collection.slice(0, -1);
  const kept = await fetchDocument(collection, id, revision);
  if ('why' in kept) return { ok: false, why: `A ${one} cannot be fetched. ${kept.why}` };
  const reading = read(kept.file);
  if (!reading.ok) return { ok: false, why: `The ${one} cannot be read: ${reading.faults[0]?.path} ${reading.faults[0]?.found}.` };
  return { ok: true, fetched: { value: reading.value, revision: kept.revision, isDraft: false } };
}

export const fetchTuning = (ref: Ref): Promise<Answer<Tuning>> => fetchFile('tunings', ref, readTuning);
export const fetchGround = (ref: Ref): Promise<Answer<Ground>> => fetchFile('grounds', ref, readGround);
export const fetchTape = (ref: Ref): Promise<Answer<Tape>> => fetchFile('tapes', ref, readTape);

/** Chooses a default tuning to compare with: the one in the project with the most similar name, else the oldest other one. */
export async function likeliestOther(id: string, name: string): Promise<string | null> {
  const query = new URLSearchParams({ limit: '200', ...inProject() });
  const answer = await askServer<{ items: { id: string; name: string }[] }>('GET', `/api/v1/tunings?${query}`);
  if ('why' in answer) return null;
  const alike = (other: string) => {
    let count = 0;
    while (count < name.length && name[count] === other[count]) count++;
    return count;
  };
  const others = answer.body.items.filter((item) => item.id !== id && item.name !== name).toReversed();
  return others.sort((a, b) => alike(b.name) - alike(a.name))[0]?.id ?? null;
}
