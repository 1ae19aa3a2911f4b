import { jsonSchema } from '@zygopod/core';
import { z } from 'zod';

/** What the API answers with, as schemas: they describe it, and tests hold it to them. */

const id = z.uuid();
const time = z.iso.datetime();
const number = z.int().min(1);

/** A file of a format, told by the format's own JSON Schema; its references stay its own by its $id. */
function fileOf(kind: 'tuning' | 'ground' | 'tape' | 'targets') {
  const { $schema, ...schema } = jsonSchema(kind);
  return z.looseObject({ format: z.string(), version: z.int(), name: z.string() }).meta({
    id: kind,
    override: ({ jsonSchema: told }) => {
      for (const key of Object.keys(told)) delete told[key as never];
      Object.assign(told, { $id: `/api/v1/schemas/${kind}`, ...schema });
    },
  });
}

/** A file of one of the formats. */
export const file = z.union([fileOf('tuning'), fileOf('ground'), fileOf('tape'), fileOf('targets')]).meta({ id: 'File' });

export const document = z
  .strictObject({
    id,
    project: id,
    kind: z.enum(['tuning', 'ground', 'tape', 'targets']),
    name: z.string(),
    head: number.meta({ description: 'Number of the newest revision' }),
    drafted: z.int().min(0).meta({ description: 'Version of the newest draft that there has been' }),
    putAwayAt: time.nullable().meta({ description: 'When it was put away; null for what is in use' }),
    ground: id.nullable().meta({ description: 'The ground that a tuning was last laid on' }),
    demo: z.string().nullable().meta({ description: 'Name of the demo file that it was loaded from' }),
    createdAt: time,
    updatedAt: time,
  })
  .meta({ id: 'Document' });

export const documentWithFile = document.extend({ file }).meta({ id: 'DocumentWithFile' });

const revision = z
  .strictObject({
    id,
    document: id,
    number,
    parent: number.nullable().meta({ description: 'The revision that it was made from' }),
    note: z.string(),
    hash: z
      .string()
      .regex(/^[0-9a-f]{64}$/)
      .meta({ description: 'SHA-256 of the file, keys in order' }),
    createdAt: time,
  })
  .meta({ id: 'Revision' });

export const revisionWithFile = revision.extend({ file }).meta({ id: 'RevisionWithFile' });

export const draft = z
  .strictObject({
    document: id,
    version: number.meta({ description: 'Never repeats for a document' }),
    base: number.meta({ description: 'The revision that it was made from' }),
    file,
    updatedAt: time,
  })
  .meta({ id: 'Draft' });

export const saved = revisionWithFile
  .extend({ draft: draft.nullable().meta({ description: 'A draft that the revision did not end, because the body did not name it' }) })
  .meta({ id: 'SavedRevision' });

const page = <T extends z.ZodType>(item: T, next: z.ZodType) =>
  z.strictObject({ items: z.array(item), next: next.nullable().meta({ description: 'Where the next page begins; null on the last one' }) });

export const documentPage = page(document, z.string()).meta({ id: 'DocumentPage' });
export const revisionPage = page(revision, number).meta({ id: 'RevisionPage' });

export const health = z.strictObject({ ok: z.boolean(), database: z.enum(['up', 'down']) }).meta({ id: 'Health' });

export const problem = z
  .looseObject({
    type: z.string(),
    title: z.string(),
    status: z.int(),
    errors: z
      .array(z.looseObject({ path: z.string() }))
      .optional()
      .meta({ description: 'Where a document is not valid: path, and found and expected, or a message' }),
    current: z.unknown().optional().meta({ description: 'With 409: what is there now' }),
  })
  .meta({ id: 'Problem', description: 'RFC 9457' });
