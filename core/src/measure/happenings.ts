import { DEGREE } from '../math/functions.ts';
import { SPENT } from '../motion/codes.ts';
import {
  ACTION_HELD,
  EDGE_MET,
  EMPTIED,
  eventNames,
  LAUNCHED,
  RECOVERED,
  SPRINT_BEGAN,
  SPRINT_CANCELLED,
  SPRINT_ENDED,
  SPRINT_REFUSED,
  WALL_MET,
} from '../motion/events.ts';
import { compassName } from '../motion/facing.ts';
import type { Trace } from '../motion/trace.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { shortNumber } from '../tuning/expression.ts';

/** An event in a row of a trace: its name, its words, and its cause, if it has one. */
export interface Happening {
  row: number;
  time: number;
  name: string;
  words: string;
  cause: string;
}

function causeOf(bit: number, bits: number, trace: Trace, row: number, { stamina, pace, facing }: Parameters): string {
  const level = shortNumber(trace.at('stamina', row), 1);
  switch (bit) {
    case SPRINT_BEGAN:
      return stamina.enabled ? `stamina ${level}` : '';
    case SPRINT_REFUSED:
      if (trace.at('gait', row) === SPENT) return `stamina ${level}, recovering to ${shortNumber(stamina.recoverTo)}`;
      return `stamina ${level}, a start needs ${shortNumber(stamina.startAt)}`;
    case SPRINT_ENDED:
      if (bits & EMPTIED || (stamina.enabled && trace.at('stamina', row) === 0)) return 'stamina empty';
      if (bits & SPRINT_CANCELLED) return 'by stop, wall or action';
      if (trace.at('amount', row) === 0) return 'nothing to move for';
      return trace.at('amount', row) < pace.sprintMinStick ? 'too little stick' : 'let go';
    case EMPTIED:
      return `locked until ${shortNumber(stamina.recoverTo)}`;
    case RECOVERED:
      return `stamina ${level}`;
    case WALL_MET: {
      const met = trace.contacts.at(row);
      return met ? `at ${shortNumber(met.angle / DEGREE, 0)}°` : '';
    }
    case EDGE_MET:
      return ['W', 'E', 'N', 'S'].filter((_, i) => trace.at('edge', row) & (1 << i)).join(' ');
    case LAUNCHED: {
      const degrees = trace.at('facing', row);
      return `${compassName(degrees * DEGREE, facing.directions)} ${shortNumber(degrees, 0)}°`;
    }
    case ACTION_HELD:
      return 'down for half a second';
    default:
      return '';
  }
}

/** The events of one row, in the order of the event list. */
function happeningsIn(trace: Trace, row: number, parameters: Parameters): Happening[] {
  const bits = trace.at('events', row);
  if (bits === 0) return [];
  return eventNames.flatMap(([name, words], i) => {
    const bit = 1 << i;
    return bits & bit ? [{ row, time: trace.at('time', row), name, words, cause: causeOf(bit, bits, trace, row, parameters) }] : [];
  });
}

/** The newest `most` happenings of the rows from `from` to `to`, newest first. */
export function lastHappenings(trace: Trace, from: number, to: number, parameters: Parameters, most: number): Happening[] {
  const found: Happening[] = [];
  for (let row = to; row >= from && found.length < most; row--) found.push(...happeningsIn(trace, row, parameters).reverse());
  return found.slice(0, most);
}
