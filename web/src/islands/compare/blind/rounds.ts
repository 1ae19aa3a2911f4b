import { chanceOf, shareInterval } from '@zygopod/core';

/** Which of two felt better; none: no difference. */
export type Choice = 'a' | 'b' | 'none';

export interface TrialSide {
  id: string;
  revision: number;
  name: string;
}

/** A round as it is kept. */
export interface Round {
  who: string;
  choice: Choice;
  why: string;
  first: 'a' | 'b';
  a: TrialSide;
  b: TrialSide;
  ground: string;
}

export interface KeptRound extends Round {
  id: string;
  createdAt: string;
}

/** How the rounds between two revisions stand: votes for each, rounds without a difference. */
export interface Tally {
  a: number;
  b: number;
  none: number;
}

const isSide = (one: TrialSide, other: TrialSide) => one.id === other.id && one.revision === other.revision;

/** The tally of the rounds between just these two revisions, whichever was called which. */
export function tallyOf(rounds: readonly Round[], a: TrialSide, b: TrialSide): Tally {
  const tally = { a: 0, b: 0, none: 0 };
  for (const round of rounds) {
    const isSame = isSide(round.a, a) && isSide(round.b, b);
    if (!isSame && !(isSide(round.a, b) && isSide(round.b, a))) continue;
    if (round.choice === 'none') tally.none++;
    else tally[isSame === (round.choice === 'a') ? 'a' : 'b']++;
  }
  return tally;
}

/** `7 of 9 for day boots, p 0.09`: the side that leads, and the chance of that if neither felt better; empty without votes. */
export function tallyWords({ a, b }: Tally, names: readonly [string, string]): string {
  const votes = a + b;
  if (votes === 0) return '';
  if (a === b) return `${a} of ${votes} for either`;
  const leads = Math.max(a, b);
  return `${leads} of ${votes} for ${names[a > b ? 0 : 1]}, p ${chanceOf(leads, votes).toFixed(2)}`;
}

/** The share of votes for the leading side with its exact 95 % interval, in words. */
export function intervalWords({ a, b }: Tally): string {
  const votes = a + b;
  if (votes === 0) return '';
  const percent = (share: number) => `${Math.round(share * 100)} %`;
  const [low, high] = shareInterval(Math.max(a, b), votes);
  return `95 % exact: ${percent(low)} to ${percent(high)} of the votes`;
}
