import { createHash } from 'node:crypto';
import {
  canonicalText,
  groundLine,
  type Reading,
  readGround,
  readTape,
  readTargets,
  readTuning,
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

type Kept = Pick<JudgedBody, 'name' | 'text' | 'hash' | 'line' | 'numbers'>;

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

/** What was read of a file: the file in its newest version, and its numbers in a line and by path. */
interface Read {
  file: { name: string };
  line: string;
  numbers: Record<string, number>;
}

/** Reads a file of a kind. A ground stays as it was written: its schema would fill in defaults. */
const readers: Record<Kind, (value: unknown) => Reading<Read>> = {
  tuning: (value) => mapped(readTuning(value), (read) => ({ file: read.file, line: tuningLine(read), numbers: tuningNumbers(read) })),
  ground: (value) => mapped(readGround(value), (read) => ({ file: value as { name: string }, line: groundLine(read), numbers: {} })),
  tape: (value) => mapped(readTape(value), (read) => ({ file: read, line: tapeLine(read), numbers: {} })),
  targets: (value) =>
    mapped(readTargets(value), (read) => ({
      file: read,
      line: read.targets.length === 1 ? '1 target' : `${read.targets.length} targets`,
      numbers: {},
    })),
};

function mapped<T>(reading: Reading<T>, as: (read: T) => Read): Reading<Read> {
  return reading.ok ? { ok: true, value: as(reading.value) } : reading;
}

/** What is kept of a file that was read. */
function keptAs({ file, line, numbers }: Read): Kept {
  const hash = createHash('sha256').update(canonicalText(file)).digest('hex');
  return { name: file.name, text: JSON.stringify(file), hash, line, numbers };
}

/** A file that was good once, as it is kept. One that can't be read any more has no numbers. */
export function judged(file: { name: string }, kind: Kind): Kept {
  const reading = readers[kind](file);
  return keptAs({ ...(reading.ok ? reading.value : { line: '', numbers: {} }), file });
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
  return { ok: true, body: { ...keptAs(reading.value), note, base, draft } };
}
