import { refused } from './imported.ts';

/** Limits of a file from outside, counted before or during the work that it causes. */
export const most = {
  /** Points of all walls together, curves flattened. */
  points: 100_000,
  /** Elements of a drawing, with those that draw nothing, and their attributes. */
  elements: 100_000,
  attributes: 600_000,
  /** Attributes of one element. */
  inOneElement: 200,
  /** Numbers in the path of one element. */
  numbers: 800_000,
  /** Transforms that are applied to shapes, counted once for each shape. */
  transforms: 200_000,
  /** Characters of one transform. */
  transform: 1000,
  /** Cells that the rectangles of a drawing fill, counted once for each rectangle. */
  fills: 40_000_000,
  /** Cells a side of a grid, and in all. */
  side: 4096,
  cells: 4096 * 4096,
  /** Bytes of a picture, unpacked. */
  unpacked: 68 * 1024 * 1024,
} as const;

/** How often a character is in a text; stops counting just above `limit`. */
export function countUpTo(text: string, character: string, limit: number): number {
  let count = 0;
  for (let at = text.indexOf(character); at >= 0 && count <= limit; at = text.indexOf(character, at + 1)) count++;
  return count;
}

/** The most attributes that an element of a drawing has: equals signs between two angle brackets. */
export function attributesInOne(text: string): number {
  let largest = 0;
  let count = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === 60) count = 0;
    else if (code === 61 && ++count > largest) largest = count;
  }
  return largest;
}

/** How many numbers stand in a text, or a few more: runs of what numbers are made of, and signs and points within them. */
export function numbersIn(text: string): number {
  let count = 0;
  let isInside = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    const isDigit = code >= 48 && code <= 57;
    // A sign or a point may begin the next number without anything between.
    if (isDigit ? !isInside : code === 43 || code === 45 || code === 46) count++;
    isInside = isDigit || code === 46;
  }
  return count;
}

/** Refuses what is more than it may be. */
export const tooMany = (path: string, what: string, limit: number) => refused(path, `more than ${limit} ${what}`, `at most ${limit}`);
