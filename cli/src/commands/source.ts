import {
  documentText,
  doubtsIn,
  knownNames,
  type Placed,
  pastedTuning,
  placeKnown,
  placeNumbers,
  plainUnits,
  proposeUnits,
  readSource,
  type Source,
  shortNumber,
  specOf,
  type Terms,
  unitsOfHandOff,
  unitsWord,
  type WrittenBack,
  writeBack,
} from '@zygopod/core';
import { readSourceFile, writeSourceFile } from '../files/sourceFile.ts';
import { readText, tuningFile, writeText } from '../files.ts';
import { gameNames, gameUnits, say } from '../handOff/words.ts';
import { FINDING, GOOD } from '../misuse.ts';

interface ReadingOptions {
  units?: string;
  names?: string;
  guesses?: boolean;
}

/** The numbers of a source and their units; terms are null if no evidence for the units exists: that has been reported. */
function readingOf(text: string, options: ReadingOptions): { placed: Placed[]; terms: Terms | null } {
  const source = readSource(text);
  const known = placeKnown(placeNumbers(source.found), knownNames(gameNames(options.names)), 'by its name');
  const placed = known.map((one): Placed => {
    const { as: _, says: __, ...rest } = one;
    if (!one.isGuess) return one;
    return options.guesses ? { ...one, isGuess: false } : { ...rest, path: null, isGuess: false, why: `a guess: ${one.why}` };
  });
  // What is only guessed at still speaks for its units.
  return { placed, terms: termsOf(options, source, known) };
}

/** The units as requested, as one of our hand-offs declares them, or as remarks and sizes suggest; null without evidence. */
function termsOf(options: ReadingOptions, source: Source, placed: readonly Placed[]): Terms | null {
  const own = unitsOfHandOff(source.text);
  if (options.units !== undefined) {
    const terms: Terms = { units: gameUnits(options.units), fileUnit: 'px', strictly: true, isHandedOver: own !== null };
    const doubts = own ? [] : doubtsIn(placed, terms);
    if (doubts.length > 0)
      say(`implausible in these units: ${doubts.join(', ')}; ${unitsWord(proposeUnits(placed, source).terms.units)} would be likelier`);
    return terms;
  }
  if (own) return { units: own, fileUnit: 'px', strictly: true, isHandedOver: true };
  const { terms, isSure, evidence, doubts } = proposeUnits(placed, source);
  const word = unitsWord(terms.units);
  const why = [...evidence, ...doubts.map((doubt) => `implausible: ${doubt}`)].join('; ');
  if (isSure || options.guesses) {
    if (word !== unitsWord(plainUnits)) say(`units: ${word} (${why})`);
    return terms;
  }
  say(`the units are uncertain, likely ${word} (${why}): set --units, or use --guesses to accept these`);
  return null;
}

interface ImportOptions extends ReadingOptions {
  name: string;
  output?: string;
}

/** Creates a tuning from a game's numbers; unknown ones are listed on stderr. */
export async function importTuning(path: string, options: ImportOptions): Promise<number> {
  const { placed, terms } = readingOf(readText(path), options);
  if (!terms) return FINDING;
  const pasted = pastedTuning(options.name.slice(0, 120), placed, terms);
  for (const { found, path: own, why } of placed)
    if (!own && found.kind === 'number') say(`line ${found.line}: ${found.name} is skipped: ${why}`);
  for (const { path: own, why } of pasted.refused) say(`${own}: ${why}`);
  const out = documentText(pasted.file);
  writeText(options.output ?? '-', out);
  return Object.keys(pasted.values).length > 0 ? GOOD : FINDING;
}

interface IntoOptions extends ReadingOptions {
  into: string;
  dryRun?: boolean;
  digits?: string;
}

/** Writes a tuning's numbers into a source in place, and changes nothing else. Exit 1 if a changed parameter has no number there. */
export async function exportInto(path: string, options: IntoOptions): Promise<number> {
  const tuning = tuningFile(path);
  const file = readSourceFile(options.into);
  const { placed, terms } = readingOf(file.text, options);
  if (!terms) return FINDING;
  const back = writeBack(file.text, placed, terms, tuning, Number(options.digits ?? 0));
  for (const line of linesOf(back)) say(line);
  if (!options.dryRun && back.edits.length > 0) writeSourceFile(options.into, back.text, file.encoding);
  return back.unplaced.length + back.refused.length > 0 ? FINDING : GOOD;
}

const value = (one: unknown) => (typeof one === 'number' ? shortNumber(one, 6) : typeof one === 'string' ? one : JSON.stringify(one));

/** Describes the changed, rounded and refused numbers, line by line. */
function linesOf({ edits, placed, unplaced, refused }: WrittenBack): string[] {
  return [
    ...edits.map(({ line, name, before, after, wanted, reads, isFlattened }) => {
      const rounding = value(wanted) === value(reads) ? '' : `, which is ${value(reads)} for ${value(wanted)}`;
      return `line ${line}: ${name}: ${before} → ${after}${rounding}${isFlattened ? ' (in place of the expression)' : ''}`;
    }),
    `${edits.length} of ${placed} numbers change, nothing else`,
    ...refused.map(({ line, name, why }) => `line ${line}: ${name} is unchanged: ${why}`),
    ...unplaced.map(
      ({ path, value: wanted, was }) => `${path} (${specOf(path).label}) has no place there: ${value(was)} → ${value(wanted)}`,
    ),
  ];
}
