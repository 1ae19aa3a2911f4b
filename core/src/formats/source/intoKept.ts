import { canonicalText } from '../../project/text.ts';
import type { FileValue, TuningFile } from '../../tuning/schema.ts';
import { resolveTuning, type Tuning, valueAt, withValue } from '../../tuning/tuning.ts';
import { type KeptSource, placeKept, termsOfKept } from './kept.ts';
import { type NewLine, newLineFor, withLines } from './newLine.ts';
import { pastedTuning } from './pasted.ts';
import { choicesOf } from './placing.ts';
import { type Edit, type Unplaced, type WrittenBack, writeBack } from './writeBack.ts';

/** A line of a source beside the same line with a tuning's numbers; null if one of them does not have it. */
export interface LinePair {
  before: string | null;
  after: string | null;
}

/** A parameter that a source has no number for, and the line that it could have. */
export interface Missing extends Unplaced {
  line: NewLine | null;
  isAdded: boolean;
}

/** A kept source with a tuning's numbers in it. */
export interface IntoKept extends Omit<WrittenBack, 'unplaced'> {
  lines: LinePair[];
  /** Parameters without a number there that the game does not do without. */
  missing: Missing[];
  /** Parameters that the game doesn’t use. */
  skipped: Unplaced[];
  /** The source as it is after this: its text, and the names of the added lines. */
  next: KeptSource;
  /** Values of the tuning's parameters as the source says them, before and after this. */
  said: { before: Record<string, FileValue>; after: Record<string, FileValue> };
}

/** Writes a tuning's numbers into its kept source, with the lines that are added to it; `gameNames`: what the game calls parameters, by path. */
export function intoKept(
  kept: KeptSource,
  tuning: Tuning,
  { more = 0, gameNames = {} }: { more?: number; gameNames?: Readonly<Record<string, string>> } = {},
): IntoKept {
  const placed = placeKept(kept, kept.text);
  const terms = termsOfKept(kept);
  const ofTuning = { ...terms, fileUnit: tuning.file.unit ?? 'px' };
  const valuesIn = (of: KeptSource) => pastedTuning('', sureOf(of), ofTuning).values;
  const before = valuesIn(kept);
  const settled = new Set(more > 0 ? [] : settledIn(kept, before, tuning));
  const { unplaced, ...back } = writeBack(kept.text, placed, terms, tuning, more, settled);
  // Each line is written into the text that has the ones before, so that no two get the same name.
  let text = back.text;
  const names: Record<string, string | null> = { ...choicesOf(placed) };
  const added: NewLine[] = [];
  const missing = unplaced
    .filter(({ path }) => !kept.skipped.includes(path))
    .map((one): Missing => {
      const line = newLineFor(text, placeKept({ names }, text), ofTuning, tuning, one.path, gameNames[one.path]);
      const isAdded = line !== null && kept.added.includes(one.path);
      if (isAdded) {
        text = withLines(text, [line]);
        names[line.key] = line.path;
        added.push(line);
      }
      return { ...one, line, isAdded };
    });
  const next = { ...kept, text, names, added: [], rounded: roundedBy(kept, back.edits, settled) };
  return {
    ...back,
    text,
    lines: pairs(kept.text, back.edits, back.text, added),
    missing,
    skipped: unplaced.filter(({ path }) => kept.skipped.includes(path)),
    next,
    said: { before, after: valuesIn(next) },
  };
}

/** Parameters whose numbers in a source are the rounded ones of the tuning, as they were written. */
function settledIn({ rounded }: KeptSource, said: Readonly<Record<string, FileValue>>, { parameters }: Tuning): string[] {
  return Object.entries(rounded).flatMap(([path, { value, reads }]) =>
    said[path] === reads && valueAt(parameters, path) === value ? [path] : [],
  );
}

/** The rounded numbers of a source after edits, of those that were settled and of the edits. */
function roundedBy({ rounded }: KeptSource, edits: readonly Edit[], settled: ReadonlySet<string>): KeptSource['rounded'] {
  const before = Object.entries(rounded).filter(([path]) => settled.has(path));
  const now = edits.flatMap(({ path, wanted, reads }) =>
    typeof wanted === 'number' && typeof reads === 'number' && wanted !== reads ? [[path, { value: wanted, reads }] as const] : [],
  );
  return Object.fromEntries([...before, ...now]);
}

const sureOf = (kept: KeptSource) => placeKept(kept, kept.text).filter(({ isGuess }) => !isGuess);

/** The lines of a source beside those with the edits and the added lines in it. */
function pairs(before: string, edits: readonly Edit[], edited: string, added: readonly NewLine[]): LinePair[] {
  const left = linesOf(before);
  const right: (string | null)[] = linesOf(edited);
  // An expression over several lines may have become one number.
  for (const { at, end, after } of edits) {
    const lost = breaksIn(before.slice(at, end)) - breaksIn(after);
    right.splice(breaksIn(before.slice(0, at)) + breaksIn(after) + 1, 0, ...Array<null>(Math.max(0, lost)).fill(null));
  }
  const all = left.map((line, i): LinePair => ({ before: line, after: right[i] ?? null }));
  // Each added line was counted in the text that has the ones before it.
  for (const { after, text } of added) {
    let seen = 0;
    let i = 0;
    while (i < all.length && seen < after) if (all[i++]?.after !== null) seen++;
    all.splice(i, 0, { before: null, after: text });
  }
  return all;
}

const breaksIn = (text: string) => text.split('\n').length - 1;

const linesOf = (text: string) => text.split('\n').map((line) => line.replace(/\r$/, ''));

/** The changes made by hand in a source since it was kept, as changes of its tuning. */
export interface ByHand {
  /** Values of the parameters whose numbers were changed there. */
  values: Record<string, FileValue>;
  /** Those of them that were changed in the tuning as well: there the source counts. */
  conflicts: string[];
  /** The tuning with these values. */
  file: TuningFile;
  /** Why they can't be a tuning together; the file is as it was then. */
  why: string | null;
}

/**
 * Takes the numbers that were changed by hand in a source over into its tuning. Each is compared with what the source said before, so that the
 * rounding of numbers that nobody touched changes nothing. `now`: the source with its new text.
 */
export function takeByHand(kept: KeptSource, now: KeptSource, tuning: TuningFile): ByHand {
  const readingOf = (of: KeptSource) => pastedTuning('', sureOf(of), { ...termsOfKept(of), fileUnit: tuning.unit ?? 'px' });
  const [was, is] = [readingOf(kept), readingOf(now)];
  const values = Object.fromEntries(
    Object.entries(is.values).filter(([path, value]) => canonicalText(was.values[path]) !== canonicalText(value)),
  );
  const before = resolveTuning(tuning);
  const pending = new Set(before.ok ? intoKept(kept, before.value).edits.map(({ path }) => path) : []);
  const conflicts = Object.keys(values).filter((path) => pending.has(path));
  const file = Object.entries(values).reduce((next, [path, value]) => withValue(next, path, value), tuning);
  const resolved = resolveTuning(file);
  const refused = is.refused.find(({ path, why }) => !was.refused.some((one) => one.path === path && one.why === why));
  const [fault] = resolved.ok ? [] : resolved.faults;
  const why = refused
    ? `${refused.path}: ${refused.why}`
    : fault
      ? `${fault.path}: expected ${fault.expected}, found ${fault.found}`
      : null;
  return { values, conflicts, file: why === null ? file : tuning, why };
}
