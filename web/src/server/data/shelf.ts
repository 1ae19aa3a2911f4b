import type { DocumentKind, Search } from '@zygopod/core';
import { and, asc, desc, eq, gt, ilike, inArray, isNotNull, isNull, lt, or, type SQL, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Reader } from './documents.ts';
import { documents, revisions } from './schema.ts';

/** How a shelf is ordered. */
export const orders = ['changed', 'made', 'name'] as const;
type Order = (typeof orders)[number];

/** Where a page ends: the last document's value by which it is ordered, and its id. */
export interface Mark {
  value: string;
  id: string;
}

interface ListRequest {
  project: string;
  /** Null: of all kinds. */
  kind: DocumentKind | null;
  search: Search;
  order: Order;
  away: boolean;
  limit: number;
  after?: Mark | undefined;
}

/** A revision as the shelf shows it. */
export interface Sounding {
  number: number;
  name: string;
  note: string;
  createdAt: Date;
  hash: string;
}

const ground = alias(documents, 'ground');

const shown = {
  id: documents.id,
  kind: documents.kind,
  name: documents.name,
  line: documents.line,
  head: documents.head,
  ground: documents.ground,
  groundName: ground.name,
  demo: documents.demo,
  putAwayAt: documents.putAwayAt,
  createdAt: documents.createdAt,
  updatedAt: documents.updatedAt,
};
type Shown = {
  id: string;
  kind: DocumentKind;
  name: string;
  line: string;
  head: number;
  ground: string | null;
  groundName: string | null;
  demo: string | null;
  putAwayAt: Date | null;
  createdAt: Date;
  updatedAt: Date;
};

export interface ShelfItem extends Shown {
  /** The newest revisions, newest first; those that have a name are among them, however old. */
  revisions: Sounding[];
}

/** Revisions of a document that are shown. */
const SHOWN = 12;

const like = (text: string) => `%${text.replace(/[\\%_]/g, '\\$&')}%`;

/** The lower-case name, as the database orders it: a C collation is the same everywhere. */
const byName = sql<string>`lower(${documents.name}) collate "C"`;

const values: Readonly<Record<Order, SQL<string>>> = {
  changed: sql<string>`to_char(${documents.updatedAt} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS')`,
  made: sql<string>`to_char(${documents.createdAt} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS')`,
  name: byName,
};

function beyond(order: Order, { value, id }: Mark): SQL | undefined {
  if (order === 'name') return or(gt(byName, value), and(sql`${byName} = ${value}`, gt(documents.id, id)));
  const column = order === 'made' ? documents.createdAt : documents.updatedAt;
  const at = new Date(`${value}Z`);
  return or(lt(column, at), and(eq(column, at), lt(documents.id, id)));
}

/** Conditions of a search: text in the name, or in names and notes of revisions; numbers in the newest revision. */
function conditionsOf({ text, conditions }: Search): (SQL | undefined)[] {
  const found = text
    ? or(
        ilike(documents.name, like(text)),
        sql`exists (select 1 from ${revisions} where ${revisions.document} = ${documents.id} and (${revisions.note} ilike ${like(text)} or ${revisions.name} ilike ${like(text)}))`,
      )
    : undefined;
  const numbers = conditions.map(({ path, is, value }) => {
    const number = sql`(${documents.numbers} ->> ${path}::text)::float8`;
    const near = sql`abs(${number} - ${value}::float8) <= 1e-9 * greatest(1, abs(${value}::float8))`;
    return {
      '<': sql`${number} < ${value}`,
      '<=': sql`${number} <= ${value}`,
      '=': near,
      '>=': sql`${number} >= ${value}`,
      '>': sql`${number} > ${value}`,
    }[is];
  });
  return [found, ...numbers];
}

/** A page of a project's shelf: documents with their newest revisions. */
export async function listShelf(
  db: Reader,
  { project, kind, search, order, away, limit, after }: ListRequest,
): Promise<{ items: ShelfItem[]; next: Mark | null }> {
  const rows = await db
    .select({ ...shown, value: values[order] })
    .from(documents)
    .leftJoin(ground, eq(ground.id, documents.ground))
    .where(
      and(
        eq(documents.project, project),
        kind ? eq(documents.kind, kind) : undefined,
        away ? isNotNull(documents.putAwayAt) : isNull(documents.putAwayAt),
        ...conditionsOf(search),
        after && beyond(order, after),
      ),
    )
    .orderBy(
      ...(order === 'name'
        ? [asc(byName), asc(documents.id)]
        : [desc(order === 'made' ? documents.createdAt : documents.updatedAt), desc(documents.id)]),
    )
    .limit(limit + 1);
  const page = rows.slice(0, limit);
  const last = page.at(-1);
  const known = await soundings(
    db,
    page.map(({ id }) => id),
  );
  return {
    items: page.map(({ value: _, ...item }) => ({ ...item, revisions: known.get(item.id) ?? [] })),
    next: rows.length > limit && last ? { value: last.value, id: last.id } : null,
  };
}

/** The newest revisions of documents, and those of them that have names. */
async function soundings(db: Reader, ids: string[]): Promise<Map<string, Sounding[]>> {
  const found = new Map<string, Sounding[]>();
  if (ids.length === 0) return found;
  const { document, number, name, note, createdAt, hash } = revisions;
  const rows = await db
    .select({ document, number, name, note, createdAt, hash })
    .from(revisions)
    .innerJoin(documents, eq(documents.id, document))
    .where(and(inArray(document, ids), or(sql`${number} > ${documents.head} - ${SHOWN}::int`, sql`${name} <> ''`)))
    .orderBy(desc(number));
  for (const { document, ...sounding } of rows) found.set(document, [...(found.get(document) ?? []), sounding]);
  return found;
}
