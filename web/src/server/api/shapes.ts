import { type DocumentKind, type formatNames, jsonSchema, kindNames } from '@zygopod/core';
import { z } from 'zod';

/** Schemas of the API's responses: they generate its description, and tests check responses against them. */

const id = z.uuid();
const time = z.iso.datetime();
const number = z.int().min(1);

/** Text of at most so many letters that the database can hold. */
export const text = (most: number) =>
  z
    .string()
    .max(most)
    .refine((line) => line.isWellFormed() && !line.includes('\0'), 'expected text');

/** A file of a format, described by the format's own JSON Schema; its $id keeps its references its own. */
function fileOf(kind: (typeof formatNames)[number]) {
  const { $schema, ...schema } = jsonSchema(kind);
  return z.looseObject({ format: z.string(), version: z.int(), name: z.string() }).meta({
    id: kind,
    override: ({ jsonSchema: target }) => {
      for (const key of Object.keys(target)) delete target[key as never];
      Object.assign(target, { $id: `/api/v1/schemas/${kind}`, ...schema });
    },
  });
}

/** A file of one of the formats. */
export const file = z.union(kindNames.map(fileOf)).meta({ id: 'File' });

export const document = z
  .strictObject({
    id,
    project: id,
    kind: z.enum(kindNames),
    name: z.string(),
    line: z.string().meta({ description: 'Main numbers of the newest revision' }),
    head: number.meta({ description: 'Number of the newest revision' }),
    drafted: z.int().min(0).meta({ description: 'Version of the newest draft that there has been' }),
    putAwayAt: time.nullable().meta({ description: 'When it was archived; null if it is in use' }),
    ground: id.nullable().meta({ description: 'The ground last used with a tuning' }),
    demo: z.string().nullable().meta({ description: 'Name of the demo file that it was loaded from' }),
    createdAt: time,
    updatedAt: time,
  })
  .meta({ id: 'Document' });

export const documentWithFile = document.extend({ file }).meta({ id: 'DocumentWithFile' });

export const revision = z
  .strictObject({
    id,
    document: id,
    number,
    parent: number.nullable().meta({ description: 'Its base revision' }),
    note: z.string(),
    name: z.string().meta({ description: 'Name given to it' }),
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
    base: number.meta({ description: 'Its base revision' }),
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

export const health = z
  .strictObject({
    ok: z.boolean(),
    database: z
      .enum(['up', 'down', 'full', 'readOnly', 'preparing'])
      .meta({ description: 'full and readOnly: it can be read, but not written to; preparing: it is being upgraded' }),
    exceptions: z.int().min(0).meta({ description: 'Uncaught exceptions since the start' }),
    queue: z
      .strictObject({
        sweeps: z.int().min(0).meta({ description: 'Sweeps that are being measured' }),
        chunks: z.int().min(0).meta({ description: 'Chunks of them that aren’t measured yet' }),
        workers: z.int().min(0).meta({ description: 'Workers that were heard of lately' }),
      })
      .nullable()
      .meta({ description: 'null: not known, because the database doesn’t answer' }),
  })
  .meta({ id: 'Health' });

export const problem = z
  .looseObject({
    type: z.string(),
    title: z.string(),
    status: z.int(),
    errors: z
      .array(z.looseObject({ path: z.string() }))
      .optional()
      .meta({ description: 'Where a document is not valid: path, and found and expected, or a message' }),
    current: z.unknown().optional().meta({ description: 'With 409: the present version' }),
  })
  .meta({ id: 'Problem', description: 'RFC 9457' });

/** A project as a file. */
export const projectFile = fileOf('project');

export const project = z
  .strictObject({
    id,
    name: z.string(),
    unit: z.enum(['px', 'm']),
    names: z.record(z.string(), z.string()).meta({ description: 'The game’s names for parameters, by path' }),
    isDemo: z.boolean(),
    version: number.meta({ description: 'Counts the changes of name, unit and names' }),
    putAwayAt: time.nullable(),
    createdAt: time,
  })
  .meta({ id: 'Project' });

export const projectVersion = z
  .strictObject({ version: number, name: z.string(), unit: z.enum(['px', 'm']), names: z.record(z.string(), z.string()), createdAt: time })
  .meta({ id: 'ProjectVersion' });

const many = z.int().min(0);
export const counts = z
  .strictObject({ ...(Object.fromEntries(kindNames.map((kind) => [kind, many])) as Record<DocumentKind, typeof many>), away: many })
  .meta({ id: 'Counts', description: 'Number of documents in use by kind, and of archived ones' });

const shelfItem = z
  .strictObject({
    id,
    kind: z.enum(kindNames),
    name: z.string(),
    line: z.string(),
    head: number,
    ground: id.nullable(),
    groundName: z.string().nullable(),
    demo: z.string().nullable(),
    putAwayAt: time.nullable(),
    createdAt: time,
    updatedAt: time,
    revisions: z.array(z.strictObject({ number, name: z.string(), note: z.string(), hash: z.string(), createdAt: time })),
  })
  .meta({ id: 'ShelfItem' });

export const shelfPage = page(shelfItem, z.string()).meta({ id: 'ShelfPage' });
