/** A revision of a document; null stands for its newest one, and for the draft of what the page was opened with. */
export interface Ref {
  id: string;
  revision: number | null;
}

/** How often a side ticks: at a rate (Hz), once per uneven frame, or as its tuning says. */
export type Rate = 30 | 60 | 144 | 'uneven';
export const rates: readonly Rate[] = [30, 60, 144, 'uneven'];

export interface SideRef extends Ref {
  rate: Rate | null;
}

/** A comparison as stored in an address. */
export interface Comparison {
  sides: SideRef[];
  ground: Ref;
  tape: Ref | null;
  /** The moment shown (s since the tape's beginning). */
  at: number | null;
}

/** Sides at most. */
export const MOST_SIDES = 4;

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

function readRef(text: string | null): Ref | null {
  const [id = '', revision] = (text ?? '').split('.');
  if (!uuid.test(id)) return null;
  return { id, revision: /^[1-9]\d{0,8}$/.test(revision ?? '') ? Number(revision) : null };
}

function readSide(text: string): SideRef | null {
  const [document = '', rate] = text.split('~');
  const ref = readRef(document);
  return ref && { ...ref, rate: rates.find((one) => String(one) === rate) ?? null };
}

const refText = ({ id, revision }: Ref): string => (revision === null ? id : `${id}.${revision}`);

/** Reads a comparison from an address' search. Unreadable sides are left out; missing parts come from `otherwise`. */
export function readComparison(search: string, otherwise: Comparison): Comparison {
  const query = new URLSearchParams(search);
  const sides = query
    .getAll('side')
    .map(readSide)
    .filter((side) => side !== null)
    .slice(0, MOST_SIDES);
  const at = Number(query.get('at') ?? Number.NaN);
  return {
    sides: sides.length > 0 ? sides : otherwise.sides,
    ground: readRef(query.get('ground')) ?? otherwise.ground,
    tape: readRef(query.get('tape')) ?? otherwise.tape,
    at: Number.isFinite(at) && at >= 0 ? at : otherwise.at,
  };
}

/** The address of a comparison. */
export function comparisonAddress({ sides, ground, tape, at }: Comparison): string {
  const query = [
    `ground=${refText(ground)}`,
    ...sides.map((side) => `side=${refText(side)}${side.rate === null ? '' : `~${side.rate}`}`),
    ...(tape ? [`tape=${refText(tape)}`] : []),
    ...(at === null ? [] : [`at=${Number(at.toFixed(3))}`]),
  ];
  return `/compare/${sides[0]?.id}?${query.join('&')}`;
}
