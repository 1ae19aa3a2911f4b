import { createHash } from 'node:crypto';
import { canonicalText, type DocumentKind, documentKinds } from '@zygopod/core';
import { z } from 'zod';

/** A body with a valid file: its name, text and hash, and the rest of the request. */
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
  /** Its base revision. */
  base?: number | undefined;
  /** The version of the draft that it ends (0: none). */
  draft: number;
  /** The id that a new document is to have. */
  id?: string | undefined;
}

type Kept = Pick<JudgedBody, 'name' | 'text' | 'hash' | 'line' | 'numbers'>;

/** Plain data, because it may come from another thread. */
export type Verdict = { ok: true; body: JudgedBody } | { ok: false; status: number; title: string; members?: Record<string, unknown> };

/** Maximum number of reported faults. */
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
  id: z.uuid().optional(),
});

/** A file as it is stored, with its numbers in a line and by path. */
function keptAs(file: { name: string }, line: string, numbers: Record<string, number>): Kept {
  const hash = createHash('sha256').update(canonicalText(file)).digest('hex');
  return { name: file.name, text: JSON.stringify(file), hash, line, numbers };
}

/** A file that was valid once, as it is stored. One that can't be read any more has no numbers. */
export function judged(file: { name: string }, kind: DocumentKind): Kept {
  const reading = documentKinds[kind].read(file);
  return reading.ok ? keptAs(file, reading.value.line(), reading.value.numbers()) : keptAs(file, '', {});
}

/** Judges the bytes of a body that should hold a file of a kind. */
export function judge(bytes: Uint8Array, kind: DocumentKind): Verdict {
  try {
    return judgeBytes(bytes, kind);
  } catch (error) {
    if (error instanceof RangeError) return { ok: false, status: 422, title: 'The document is nested too deeply' };
    throw error;
  }
}

function judgeBytes(bytes: Uint8Array, kind: DocumentKind): Verdict {
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
  const { file, note, base, draft = 0, id } = body.data;
  const reading = documentKinds[kind].read(file);
  if (!reading.ok)
    return { ok: false, status: 422, title: 'The document is not valid', members: { errors: reading.faults.slice(0, MOST) } };
  const { stored, line, numbers } = reading.value;
  return { ok: true, body: { ...keptAs(stored, line(), numbers()), note, base, draft, id } };
}
