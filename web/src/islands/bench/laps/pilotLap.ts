import type { Ground, Lap, TuningFile } from '@zygopod/core';
import { askServer } from '../../work/server.ts';

/** A lap that the pilot has driven: its numbers, and its tape as the server returned it. */
export type PilotedLap = Lap & { tape: { name: string }; why?: string };

/** Has the pilot drive a tuning round the course of a ground, on the server; or returns why it can't. */
export async function askPilot(tuning: TuningFile, ground: Ground): Promise<PilotedLap | { why: string }> {
  const answer = await askServer<PilotedLap>('POST', '/api/v1/laps', { body: { tuning, ground } });
  if ('why' in answer) return { why: answer.why };
  const { tape } = answer.body;
  return { ...answer.body, tape: { ...tape, name: `Pilot’s lap of ${ground.name}`.slice(0, 120) } };
}
