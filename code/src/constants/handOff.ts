import {
  type Case,
  type ConstantFault,
  type ConstantValue,
  canonicalText,
  constantsOf,
  fileStem,
  type GameUnits,
  type Tuning,
  unitsWord,
} from '@zygopod/core';
import type { Writer } from '../writing/writer.ts';
import { nameConstants } from './naming.ts';
import { writers } from './writers.ts';

/** How a tuning is handed over. */
export interface HandOffChoice {
  /** The id of a language or format. */
  to: string;
  units: GameUnits;
  /** The game's names of parameters, by their paths. */
  names: Readonly<Record<string, string>>;
  style: Case | null;
  /** All parameters, or those alone that the tuning uses. */
  all: boolean;
}

/** A tuning as it is handed over. */
export interface HandedOver {
  writer: Writer;
  /** The file's name and text; the text is empty where there are faults. */
  name: string;
  text: string;
  /** The constants handed over, by the names in the game. */
  values: Record<string, ConstantValue>;
  faults: ConstantFault[];
}

/** Hands a tuning over: its constants in a language, in the game's units and names. Nothing is written where something cannot be. */
export function handOver(tuning: Tuning, revision: string, { to, units, names, style, all }: HandOffChoice): HandedOver {
  const writer = writers.find(({ id }) => id === to);
  if (!writer) throw new Error(`nothing is written in ${to}`);
  const { constants, faults: unsaid } = constantsOf(tuning, { units, names, all });
  const { written, faults: unnamed } = nameConstants(constants, writer, style ?? writer.style);
  const faults = [...unsaid, ...unnamed];
  const stem = fileStem(tuning.file.name).replaceAll('-', '_');
  const heading = { tuning: tuning.file.name, revision, units: unitsWord(units).replaceAll(',', ', '), stem };
  return {
    writer,
    name: `${stem}.${writer.extension}`,
    text: faults.length > 0 ? '' : writer.write(written, heading),
    values: Object.fromEntries(written.map(({ name, value }) => [name, value])),
    faults,
  };
}

/** The differences between two hand-offs, by names in the game. */
export interface HandOffChange {
  name: string;
  from: ConstantValue | null;
  to: ConstantValue | null;
}

/** The changes of a hand-off since the one before, including added and removed names. */
export function changesSince(
  before: Readonly<Record<string, ConstantValue>>,
  now: Readonly<Record<string, ConstantValue>>,
): HandOffChange[] {
  const names = [...new Set([...Object.keys(now), ...Object.keys(before)])];
  return names
    .filter((name) => canonicalText(before[name]) !== canonicalText(now[name]))
    .map((name) => ({ name, from: before[name] ?? null, to: now[name] ?? null }));
}
