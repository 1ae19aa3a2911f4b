import { type InForce, type Parameters, resolveTuning, type TuningFile, withValue } from '@zygopod/core';
import type { LinkedGame } from './link.ts';
import { type Exchange, isSame, type Matched } from './matching.ts';

/** Changes of numbers that the model takes over from a game, the newest. */
const MOST = 100;

/** Equal tunings are one object, so that what was driven with one isn't driven again. */
export class Canon {
  #known = new Map<string, Parameters>();

  of(parameters: Parameters): Parameters {
    const key = JSON.stringify(parameters);
    const known = this.#known.get(key);
    if (known) return known;
    if (this.#known.size > 10 * MOST) this.#known = new Map();
    this.#known.set(key, parameters);
    return parameters;
  }
}

/**
 * The tunings that a model is driven with beside a game. A number that is the same in both now, or is being sent, was at each tick what the game had
 * then; all others are the tuning's own throughout.
 */
export function tuningsInForce(
  file: TuningFile,
  { sets }: Pick<LinkedGame, 'sets'>,
  matched: readonly Matched[],
  exchange: Exchange,
  ours: (path: string) => number | boolean | string,
  isPending: (name: string) => boolean,
  canon: Canon,
): InForce[] {
  const shared = matched.filter(({ name, path, value }) => isPending(name) || isSame(exchange.fromGame(path, value), ours(path)));
  const found: InForce[] = [];
  const values = new Map<string, number | boolean | string>();
  const from = Math.max(0, sets.length - MOST);
  for (const [i, { tick, values: changed }] of sets.entries()) {
    for (const { name, path } of shared) if (changed[name] !== undefined) values.set(path, exchange.fromGame(path, changed[name]));
    if (i < from) continue;
    let then = file;
    for (const [path, value] of values) if (!isSame(value, ours(path))) then = withValue(then, path, value);
    const resolved = resolveTuning(then);
    if (!resolved.ok) continue;
    const parameters = canon.of(resolved.value.parameters);
    if (found.at(-1)?.parameters !== parameters) found.push({ from: i === from ? 0 : tick, parameters });
  }
  if (found.length > 0) return found;
  const now = resolveTuning(file);
  return now.ok ? [{ from: 0, parameters: canon.of(now.value.parameters) }] : [];
}
