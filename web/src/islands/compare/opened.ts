import { type Ground, outAndBack, type Tape } from '@zygopod/core';
import type { Opening } from '../../server/data/openings.ts';
import { type Comparison, type Ref, readComparison, type SideRef } from '../work/comparison.ts';
import { fetchGround, fetchTape, fetchTuning, likeliestOther } from '../work/fetching.ts';
import { type OpenedSide, openedSide, openedTuning } from './sides.ts';

/** The documents that an address names, as far as they can be fetched. */
interface Opened {
  comparison: Comparison;
  ground: { ground: Ground; ref: Ref } | null;
  tape: { tape: Tape; ref: Ref } | null;
  sides: OpenedSide[];
  /** Fetch failures, in words. */
  troubles: string[];
}

/** Fetches a side: a revision, or the page's own tuning as it is. */
export async function fetchSide(opening: Opening, ref: SideRef): Promise<OpenedSide | { why: string }> {
  if (ref.id === opening.tuning.id && ref.revision === null) return openedTuning(opening, ref.rate);
  const answer = await fetchTuning(ref);
  return answer.ok ? openedSide(ref, answer.fetched) : { why: answer.why };
}

/** The first tuning to compare with: the last revision if it was changed, else the one before, else the most similar tuning. */
async function firstSides({ tuning }: Opening): Promise<SideRef[]> {
  const first: SideRef = { id: tuning.id, revision: null, rate: null };
  if (tuning.draft) return [first, { ...first, revision: tuning.head }];
  if (tuning.head > 1) return [first, { ...first, revision: tuning.head - 1 }];
  const other = await likeliestOther(tuning.id, tuning.saved.name);
  return other ? [first, { id: other, revision: null, rate: null }] : [first];
}

/** Fetches what an address' search names; the page's own documents stand in for what it doesn't name. */
export async function fetchComparison(opening: Opening, search: string): Promise<Opened> {
  const { ground, tape } = opening;
  const comparison = readComparison(search, {
    sides: [],
    ground: { id: ground.id, revision: null },
    tape: tape && { id: tape.id, revision: null },
    at: null,
  });
  const refs = comparison.sides.length > 0 ? comparison.sides : await firstSides(opening);
  const [theGround, theTape, ...tunings] = await Promise.all([
    comparison.ground.revision === null ? null : fetchGround(comparison.ground),
    comparison.tape && fetchTape(comparison.tape),
    ...refs.map((ref) => fetchSide(opening, ref)),
  ]);
  const troubles: string[] = [];
  if (theGround && !theGround.ok) troubles.push(theGround.why);
  if (theTape && !theTape.ok) troubles.push(`${theTape.why} These are the hands of “${outAndBack.name}” instead.`);
  const sides: OpenedSide[] = [];
  for (const answer of tunings) {
    if ('why' in answer) troubles.push(answer.why);
    else sides.push(answer);
  }
  if (sides.length === 0) sides.push(openedTuning(opening, null));
  return {
    comparison,
    ground: theGround?.ok ? { ground: theGround.fetched.value, ref: comparison.ground } : null,
    tape: theTape?.ok
      ? { tape: theTape.fetched.value, ref: { id: (comparison.tape as Ref).id, revision: theTape.fetched.revision } }
      : null,
    sides,
    troubles,
  };
}
