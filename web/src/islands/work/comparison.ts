import { type PilotOptions, pilotDevices, pilotLines, sprintPolicies } from '@zygopod/core';

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

/** The driver of the sides: one tape for all of them, or each its own lap, by the pilot or by hand. */
export const drivers = ['tape', 'pilot', 'hand'] as const;
export type DrivenBy = (typeof drivers)[number];

/** The pilot's options that can be chosen; without a device, each tuning has the one that suits it. */
export type PilotChoice = Pick<PilotOptions, 'reaction' | 'lookAhead' | 'sprint' | 'line' | 'jitter'> &
  Partial<Pick<PilotOptions, 'device'>>;
export const usualPilot: PilotChoice = { reaction: 0.2, lookAhead: 0.3, sprint: 'straights', line: 'middle', jitter: 0 };
/** Highest values of the pilot's times, s. */
export const SLOWEST = 2;
export const FARTHEST = 5;

/** Laps of a pilot with jitter: an odd number has a median. */
export const MANY_LAPS = 21;

/** A comparison as stored in an address. */
export interface Comparison {
  sides: SideRef[];
  ground: Ref;
  tape: Ref | null;
  by: DrivenBy;
  pilot: PilotChoice;
  /** The moment shown (s since the tape's beginning, or since the start of the lap). */
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

/** A number of an address within [0, most], else another one. */
function readNumber(text: string | null, most: number, otherwise: number): number {
  const number = text ? Number(text) : Number.NaN;
  return number >= 0 && number <= most ? number : otherwise;
}

function readPilot(query: URLSearchParams): PilotChoice {
  const one = <T extends string>(name: string, values: readonly T[]) => values.find((value) => value === query.get(name));
  const device = one('device', pilotDevices);
  return {
    ...(device ? { device } : {}),
    reaction: readNumber(query.get('reaction'), SLOWEST, usualPilot.reaction),
    lookAhead: readNumber(query.get('ahead'), FARTHEST, usualPilot.lookAhead),
    sprint: one('sprint', sprintPolicies) ?? usualPilot.sprint,
    line: one('line', pilotLines) ?? usualPilot.line,
    jitter: readNumber(query.get('jitter'), 1, usualPilot.jitter),
  };
}

const refText = ({ id, revision }: Ref): string => (revision === null ? id : `${id}.${revision}`);

/** Reads a comparison from an address' search. Unreadable sides are left out; missing parts come from `otherwise`. */
export function readComparison(search: string, otherwise: Pick<Comparison, 'sides' | 'ground' | 'tape' | 'at'>): Comparison {
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
    by: drivers.find((one) => one === query.get('by')) ?? 'tape',
    pilot: readPilot(query),
    at: Number.isFinite(at) && at >= 0 ? at : otherwise.at,
  };
}

/** The options of a pilot that aren't the usual ones, as parts of an address. */
function pilotParts({ device, reaction, lookAhead, sprint, line, jitter }: PilotChoice): string[] {
  return [
    ...(device ? [`device=${device}`] : []),
    ...(reaction === usualPilot.reaction ? [] : [`reaction=${reaction}`]),
    ...(lookAhead === usualPilot.lookAhead ? [] : [`ahead=${lookAhead}`]),
    ...(sprint === usualPilot.sprint ? [] : [`sprint=${sprint}`]),
    ...(line === usualPilot.line ? [] : [`line=${line}`]),
    ...(jitter === 0 ? [] : [`jitter=${jitter}`]),
  ];
}

/** The address of a comparison. */
export function comparisonAddress({ sides, ground, tape, by, pilot, at }: Comparison): string {
  const query = [
    `ground=${refText(ground)}`,
    ...sides.map((side) => `side=${refText(side)}${side.rate === null ? '' : `~${side.rate}`}`),
    ...(tape ? [`tape=${refText(tape)}`] : []),
    ...(by === 'tape' ? [] : [`by=${by}`]),
    ...(by === 'pilot' ? pilotParts(pilot) : []),
    ...(at === null ? [] : [`at=${Number(at.toFixed(3))}`]),
  ];
  return `/compare/${sides[0]?.id}?${query.join('&')}`;
}
