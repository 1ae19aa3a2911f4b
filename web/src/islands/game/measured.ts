import { type Finding, findingsOf, type GameDrive, type Metrics, traceMetrics } from '@zygopod/core';
import type { GameValue } from './link.ts';

/** Measurements of a drive: what differs, and the metrics of both. */
export interface Measured {
  findings: readonly Finding[];
  model: Metrics;
  game: Metrics;
}

export const unmeasured: Measured = { findings: [], model: {}, game: {} };

/** Measures a drive whose model is where the game is; null while there are no ticks. `declared`: the game's own numbers by their parameters. */
export function measureDrive(
  { ticks, model, game, parameters }: GameDrive,
  { unit, hz, declared }: { unit: string; hz: number; declared: ReadonlyMap<string, GameValue> },
): Measured | null {
  if (!ticks || !model || game.end < 2) return null;
  const numberOf = (path: string) => {
    const value = declared.get(path);
    return typeof value === 'number' ? value : undefined;
  };
  return {
    findings: findingsOf(ticks, { unit, hz, declared: numberOf }),
    model: traceMetrics(model, parameters),
    game: traceMetrics(game, parameters),
  };
}
