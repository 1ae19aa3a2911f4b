import { createHash } from 'node:crypto';
import {
  canonicalText,
  groundLine,
  type Reading,
  readGround,
  readTape,
  readTargets,
  readTuning,
  type Tape,
  type TargetSet,
  tapeLine,
  tuningLine,
  tuningNumbers,
} from '@zygopod/core';
import { z } from 'zod';
import type { Kind } from '../kinds.ts';

/** A body that holds a good file: its name, text and hash, and what came with it. */
export interface JudgedBody {
  name: string;
  /** JSON of the file, in the newest version of its format. */
  text: string;
  /** SHA-256 of the file's canonical text. */
  hash: string;
  /** The file's numbers in a line, and those of a tuning by path. */
  line: string;
  numbers: Record<string, number>;
  note: string;
  /** The revision that it was made from. */
  base?: number | undefined;
  /** The version of the draft that it ends (0: none). */
  draft: number;
}

/** Plain data, because it may come from another thread. */
export type Verdict = { ok: true; body: JudgedBody } | { ok: false; status: number; title: string; members?: Record<string, unknown> };

/** Faults told at the most. */
const MOST = 50;

/** The ETag of a draft, with or without its quotes. */
const draftTag = z
  .string()
  .regex(/^"?\d{1,9}"?$/)
  .transform((tag) => Number(tag.replaceAll('"', '')));

const bodySchema = z.strictObject({
  file: z.unknown(),
  note: z.string().max(2000).default(''),
  base: z.int().min(1).max(2_147_483_647).optional(),
  draft: draftTag.optional(),
});

/** Reads a file of a kind; gives it in its newest version. A ground stays as it was written: its schema would fill in defaults. */
const readers: Record<Kind, (value: unknown) => Reading<unknown>> = {
  tuning: (value) => mapped(readTuning(value), ({ file }) => file),
  ground: (value) => mapped(readGround(value), () => value),
  tape: readTape,
  targets: readTargets,
};

function mapped<T>(reading: Reading<T>, file: (read: T) => unknown): Reading<unknown> {
  return reading.ok ? { ok: true, value: file(reading.value) } : reading;
}

/** A file's numbers, in a line and by path. */
const numbersOf: Record<Kind, (file: never) => { line: string; numbers: Record<string, number> }> = {
  tuning: (file) => {
    const read = readTuning(file);
    return read.ok ? { line: tuningLine(read.value), numbers: tuningNumbers(read.value) } : { line: '', numbers: {} };
  },
  ground: (file) => {
    const read = readGround(file);
    return { line: read.ok ? groundLine(read.value) : '', numbers: {} };
  },
  tape: (file: Tape) => ({ line: tapeLine(file), numbers: {} }),
  targets: ({ targets }: TargetSet) => ({ line: targets.length === 1 ? '1 target' : `${targets.length} targets`, numbers: {} }),
};

/** A good file as it is kept. */
export function judged(file: { name: string }, kind: Kind): Pick<JudgedBody, 'name' | 'text' | 'hash' | 'line' | 'numbers'> {
  const hash = createHash('sha256').update(canonicalText(file)).digest('hex');
  return { name: file.name, text: JSON.stringify(file), hash, ...numbersOf[kind](file as never) };
}

/** Judges the bytes of a body that should hold a file of a kind. */
export function judge(bytes: Uint8Array, kind: Kind): Verdict {
  try {
    return judgeBytes(bytes, kind);
  } catch (error) {
    if (error instanceof RangeError) return { ok: false, status: 422, title: 'The document is nested too deeply' };
    throw error;
  }
}

function judgeBytes(bytes: Uint8Array, kind: Kind): Verdict {
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return { ok: false, status: 400, title: 'The body is no UTF-8 JSON' };
  }
  const body = bodySchema.safeParse(value);
  if (!body.success) {
    const errors = body.error.issues.slice(0, MOST).map(({ path, message }) => ({ path: path.join('.'), message: message.slice(0, 300) }));
    return { ok: false, status: 400, title: 'The body has to be { file, note?, base?, draft? }', members: { errors } };
  }
  const { file, note, base, draft = 0 } = body.data;
  const reading = readers[kind](file);
  if (!reading.ok)
    return { ok: false, status: 422, title: 'The document is not valid', members: { errors: reading.faults.slice(0, MOST) } };
  return { ok: true, body: { ...judged(reading.value as { name: string }, kind), note, base, draft } };
}
