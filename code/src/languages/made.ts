import type { Asked, Program, Routine } from '../fold/ir.ts';

/** What the file of a tuning is made from. */
export interface Motion {
  tuning: string;
  program: Program;
  /** The routines of a tick in their order. */
  tick: Routine[];
  /** The body's fields with how they start. */
  fields: [string, number][];
  /** The controls, by their place in the hands. */
  controls: readonly string[];
}

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

/** What a routine's comment says: the first sentence of its own words, and where in the core the rest is told. */
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

/** What of the game is called, in the order in which it is handed over. */
export const asked: readonly Asked[] = ['contact', 'isClear', 'plan'];

/** What a tick asks the game. */
export const asksOf = ({ tick }: Pick<Motion, 'tick'>): Asked[] => asked.filter((one) => tick.some(({ uses }) => uses.has(one)));

/** What is told of a tick, in which the game's contact is named as the language has it. */
export const tickWords = (motion: Motion, contact = 'contact'): string =>
  asksOf(motion).includes('contact')
    ? `A tick; ${contact} takes the body towards velocityToX and velocityToY as far as the game's walls let it: it sets contactX, contactY, contactVx, contactVy and contactCount, and contactStops to 1 where no speed is left.`
    : 'A tick.';

/** The lists of planes that a body touches at once. */
export const planeLists = ['planeX', 'planeY', 'planeIsWall'] as const;

/** What holds a body among walls, as code. */
export interface Walls {
  tuning: string;
  program: Program;
  /** Takes the body along, looks whether it can go straight, and lays out the courses of the walls. */
  contact: Routine;
  isClear: Routine;
  courses: Routine;
  /** The numbers that are written while it runs, with how they start. */
  fields: [string, number][];
  /** How many planes are touched at once, at the most. */
  planes: number;
}
