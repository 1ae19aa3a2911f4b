import { type LinkRequest, readTape, type Tape } from '@zygopod/core';
import { fetchDocument } from '../work/documentActions.ts';
import { askServer } from '../work/server.ts';
import type { GameWork } from './gameWork.ts';

/** The hands of a tape at a game's rate. */
export function handsAt(tape: Pick<Tape, 'events' | 'hz' | 'ticks'>, hz: number): Extract<LinkRequest, { type: 'tape' }> {
  const at = (tick: number) => Math.ceil((tick * hz) / tape.hz - 1e-9);
  return { type: 'tape', hands: tape.events.map((event) => ({ ...event, at: at(event.at) })), ticks: at(tape.ticks) };
}

/** The place at which a tape begins, in the ground's unit; null: the ground's start. */
function beginningOf({ snapshot }: Tape): { x: number; y: number } | null {
  const { x, y } = snapshot?.body ?? {};
  return typeof x === 'number' && typeof y === 'number' ? { x, y } : null;
}

/** Replays a tape in the game from where it begins; returns why it can't. */
async function replay(game: GameWork, tape: Tape): Promise<string | null> {
  const open = game.$game.get();
  if (!open?.isLinked) return 'The game is not linked.';
  const begins = beginningOf(tape);
  const first: LinkRequest | null = begins
    ? open.can.includes('place')
      ? { type: 'place', ...game.placeInGame(begins) }
      : null
    : open.can.includes('restart')
      ? { type: 'restart' }
      : null;
  if (!first) return begins ? 'The game can’t be placed where the tape begins.' : 'The game can’t be restarted.';
  const held = (tape.snapshot?.hands.held ?? []).map((control) => ({ at: 0, press: control }));
  const hands = handsAt({ ...tape, events: [...held, ...tape.events] }, open.hz);
  if (hands.hands.length > 1000) return 'The tape has more than 1,000 events: a message holds no more.';
  if (!(await game.request(first))) return game.$trouble.get();
  return (await game.request(hands)) ? null : game.$trouble.get();
}

/** Replays a kept tape in the game; returns why it can't. */
export async function replayInGame(game: GameWork, id: string): Promise<string | null> {
  const kept = await fetchDocument('tapes', id);
  if ('why' in kept) return kept.why;
  const read = readTape(kept.file);
  return read.ok ? replay(game, read.value) : 'The tape can’t be read.';
}

/** Has the pilot drive the tuning round the course, and the game drive the same hands; returns why it can't. */
export async function lapInGame(game: GameWork): Promise<string | null> {
  const { ground } = game;
  const body = { tuning: game.work.editing.$now.get(), ground };
  const answer = await askServer<{ tape: unknown; why?: string; finished: boolean }>('POST', '/api/v1/laps', { body });
  if ('why' in answer) return answer.why;
  const read = readTape(answer.body.tape);
  return read.ok ? replay(game, read.value) : 'The lap can’t be read.';
}
