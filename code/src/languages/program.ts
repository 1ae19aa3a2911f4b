import type { Callback, Program, Routine } from '../fold/ir.ts';
import type { LiveNumber } from '../live.ts';

/** The program of a tuning's file. */
export interface Motion {
  tuning: string;
  /** Parameters that stay variables. */
  live: readonly LiveNumber[];
  program: Program;
  /** The routines of a tick in their order. */
  tick: Routine[];
  /** The body's fields with how they start. */
  fields: [string, number][];
  /** The controls, by their place in the hands, and the directions of swipes, from 1. */
  controls: readonly string[];
  swipes: readonly string[];
  /** Places a new body. */
  place: Routine;
  /** How far inside of an area's edges the body's origin has to stay: each edge's inset and what is added to it; without those that it doesn't meet. */
  edges: Readonly<Partial<Record<Edge, readonly [inset: number, more: number]>>>;
}

export const edgeNames = ['left', 'top', 'right', 'bottom'] as const;
type Edge = (typeof edgeNames)[number];

/** Where the edges of an area `left, top, right, bottom` hold the body's origin: each field with its expression, computed as the model does. */
export function edgeSettings({ edges, fields }: Pick<Motion, 'edges' | 'fields'>, number: (value: number) => string): [string, string][] {
  const known = new Set(fields.map(([field]) => field));
  return edgeNames.flatMap((edge): [string, string][] => {
    const field = `edge${edge[0]?.toUpperCase()}${edge.slice(1)}`;
    const sign = edge === 'left' || edge === 'top' ? '+' : '-';
    const terms = edges[edge]?.filter((value) => value !== 0).map((value) => ` ${sign} ${number(value)}`);
    return terms && known.has(field) ? [[field, edge + terms.join('')]] : [];
  });
}

/** Controls that are directions: keys that steer. */
export const STEERING = 4;

/** The hands' contents: a comment in every language. */
export const handsWords =
  'The input of a player. Report each change when it happens, between two ticks: press, release, stick, point, swipe. A tick consumes them.';

/** The first sentence of some words; what is in brackets ends none. */
function firstSentence(words: string): string {
  let depth = 0;
  for (let i = 0; i < words.length; i++) {
    const [letter, next] = [words[i], words[i + 1]];
    depth += letter === '(' ? 1 : letter === ')' ? -1 : 0;
    if (depth === 0 && (letter === '.' || letter === ':') && (next === ' ' || next === undefined)) return `${words.slice(0, i)}.`;
  }
  return words;
}

/** A routine's comment: the first sentence of its own, and the place in the core of the rest. */
export const docOf = ({ words, source }: Pick<Routine, 'words' | 'source'>): string =>
  `${firstSentence(words.replace(/\s+/g, ' '))} (${source})`.trim();

/** Letters of a line of a comment. */
const WIDTH = 134;

/** Words in lines, as many as each holds. */
export function filled(text: string): string[] {
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + word.length < WIDTH) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** The game's callbacks, in the order of the arguments. */
export const callbacks: readonly Callback[] = ['contact', 'isClear', 'plan'];

/** The callbacks of a tick. */
export const callbacksUsed = ({ tick }: Pick<Motion, 'tick'>): Callback[] =>
  callbacks.filter((one) => tick.some(({ uses }) => uses.has(one)));

/** The comment of a tick, with the language's name of the game's contact callback. */
export const tickWords = (motion: Motion, contact = 'contact'): string =>
  callbacksUsed(motion).includes('contact')
    ? `A tick; ${contact} moves the body towards velocityToX and velocityToY as far as the game's walls allow: it sets contactX, contactY, contactVx, contactVy and contactCount, and contactStops to 1 if no speed is left.`
    : 'A tick.';

/** The lists of planes that a body touches at once. */
export const planeLists = ['planeX', 'planeY', 'planeIsWall'] as const;

/** The code that holds a body among walls. */
export interface Walls {
  tuning: string;
  program: Program;
  /** Moves the body, tests whether a straight line is clear, and lays out the courses of the walls. */
  contact: Routine;
  isClear: Routine;
  courses: Routine;
  /** The fields that are written while it runs, with their initial values. */
  fields: [string, number][];
  /** Maximum number of planes touched at once. */
  planes: number;
}
