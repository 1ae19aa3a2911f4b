import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Ground, numberAt, type Tape, type Tuning, wallSegments } from '@zygopod/core';
import { begun, compared, modelRun } from '../golden/modelRun.ts';
import type { LanguageId } from '../languages/list.ts';
import { callbacksUsed, type Motion, type Walls } from '../languages/program.ts';
import { printerOf } from '../languages/registry.ts';
import { motionOf } from '../motion.ts';
import { HANDS } from './driver.ts';
import { motionOnce, wallsOnce } from './once.ts';
import { proofs } from './proofs.ts';

/** A double by its bits, where a language reads and writes decimals less than exactly. */
const view = new DataView(new ArrayBuffer(8));
function bitsOf(value: number): string {
  view.setFloat64(0, value);
  return `#${view.getBigInt64(0)}`;
}
function fromBits(text: string): number {
  view.setBigInt64(0, BigInt(text.slice(1)));
  return view.getFloat64(0);
}

interface Proved {
  motion: Motion;
  walls: Walls | null;
  /** A program's input in any language, a tick per line, and the model's results for it. */
  lines: number[][];
  rows: number[][];
}

/** Prepared inputs, by everything that they depend on: each language is proved on the same. */
const ready = new Map<string, Proved>();

/** The motion of a tuning with numbers that stay variables, and are those of another one. */
function liveMotion(tuning: Tuning, live: readonly string[], model: Tuning): Motion {
  const motion = motionOf(tuning, { live });
  const starts = new Map(motion.live.map(({ path, field }) => [field, numberAt(model.parameters, path)]));
  return { ...motion, fields: motion.fields.map(([field, value]) => [field, starts.get(field) ?? value]) };
}

function readied(
  tuning: Tuning,
  tapes: readonly Tape[],
  model: Tuning,
  ground: Ground | undefined,
  walls: boolean,
  live: readonly string[],
): Proved {
  const key = JSON.stringify([tuning.file, tapes, model.file, ground, walls, live]);
  const known = ready.get(key);
  if (known) return known;
  const runs = tapes.map((tape) => modelRun(model, tape, ground));
  const generated: Proved = {
    motion: live.length > 0 ? liveMotion(tuning, live, model) : motionOnce(tuning),
    walls: walls ? wallsOnce(tuning) : null,
    lines: runs.flatMap(({ hands, begins, paths }) =>
      hands.map((line, i) => [...line, ...begins, paths[i]?.length ?? 0, ...(paths[i] ?? [])]),
    ),
    rows: runs.flatMap((run) => run.rows),
  };
  ready.set(key, generated);
  return generated;
}

/**
 * The first place where a language's file differs from the model on some tapes, by number; null if they agree bit for bit. With `walls` the body
 * meets those of the ground, by the second file; paths are the model's. Numbers that are `live` have the model's values.
 */
export function proveOn(
  language: LanguageId,
  tuning: Tuning,
  tapes: readonly Tape[],
  folder: string,
  { model = tuning, ground, walls = false, live = [] }: { model?: Tuning; ground?: Ground; walls?: boolean; live?: readonly string[] } = {},
): { tick: number; field: string; model: number; file: number } | null {
  const printer = printerOf(language);
  const { driver, run } = proofs[language];
  const { motion, walls: second, lines, rows } = readied(tuning, tapes, model, ground, walls, live);
  const known = new Set(motion.fields.map(([field]) => field));
  writeFileSync(join(folder, `motion.${printer.extension}`), printer.file(motion));
  const beside = join(folder, `walls.${printer.extension}`);
  if (second) writeFileSync(beside, printer.walls(second));
  else rmSync(beside, { force: true });
  writeFileSync(
    join(folder, `drive.${printer.extension}`),
    driver.text({
      begin: (set) => begun.flatMap((field, i) => (known.has(field) ? [set(field, HANDS + i)] : [])).join(' '),
      asks: callbacksUsed(motion),
      segments: walls && ground ? Array.from(wallSegments(ground, tuning.parameters.contact.seams)) : null,
    }),
  );
  const inWords = (line: number[]) => (driver.isInBits ? line.map(bitsOf) : line).join(' ');
  const printed = run('drive', folder, `${lines.map(inWords).join('\n')}\n`)
    .trim()
    .split('\n');
  if (printed.length !== rows.length) throw new Error(`${language}: ${printed.length} ticks of ${rows.length}, the last ${printed.at(-1)}`);
  for (const [tick, row] of rows.entries()) {
    const values = (printed[tick] as string).split(' ').map((one) => (one.startsWith('#') ? fromBits(one) : Number(one)));
    const at = row.findIndex((value, i) => !Object.is(value, (values[i] as number) + 0));
    if (at >= 0) return { tick, field: compared[at] as string, model: row[at] as number, file: values[at] as number };
  }
  return null;
}
