import type { MoveRequest } from '@zygopod/core';

/** The parameter of an address that names a number which a fit may move. */
const MOVE = 'move';
/** Numbers that a fit may move, at most. */
const MOST = 12;

/** The numbers that an address names: `move=ramp.brake` or `move=ramp.brake=600:4000`. */
export function movesIn(search: string): MoveRequest[] {
  return new URLSearchParams(search)
    .getAll(MOVE)
    .slice(0, MOST)
    .map((text): MoveRequest => {
      const [path = '', range = ''] = text.split('=');
      const [min, max] = range.split(':').map((end) => (end === '' ? undefined : Number(end)));
      return { path, ...(Number.isFinite(min) ? { min } : {}), ...(Number.isFinite(max) ? { max } : {}) };
    });
}

/** An address’ search with these numbers; the rest of it stays. */
export function withMoves(search: string, moves: readonly MoveRequest[]): string {
  const query = new URLSearchParams(search);
  query.delete(MOVE);
  for (const { path, min, max } of moves)
    query.append(MOVE, min === undefined && max === undefined ? path : `${path}=${min ?? ''}:${max ?? ''}`);
  return query.toString();
}
