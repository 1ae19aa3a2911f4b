import { type DocumentKind, kindNames } from '@zygopod/core';
import { and, asc, count, desc, eq, gt, isNotNull, isNull, or, sql } from 'drizzle-orm';
import { Problem } from '../problem.ts';
import type { Database } from './connection.ts';
import type { Place, Reader, Seen } from './documents.ts';
import { RawJson } from './rawJson.ts';
import { documents, projects, projectVersions, revisions } from './schema.ts';

export type ProjectRow = typeof projects.$inferSelect;

/** Numbers of documents in use, and archived, by kind. */
export type Counts = Record<DocumentKind | 'away', number>;

/** A page of the projects in use, or of the archived ones, oldest first, and the place of the next page. */
export async function listProjects(
  db: Reader,
  { away, limit, after }: { away: boolean; limit: number; after?: Place | undefined },
): Promise<{ items: ProjectRow[]; next: Place | null }> {
  const { createdAt, id, putAwayAt } = projects;
  const beyond = after && or(gt(createdAt, after.createdAt), and(eq(createdAt, after.createdAt), gt(id, after.id)));
  const rows = await db
    .select()
    .from(projects)
    .where(and(away ? isNotNull(putAwayAt) : isNull(putAwayAt), beyond))
    .orderBy(asc(createdAt), asc(id))
    .limit(limit + 1);
  const items = rows.slice(0, limit);
  const last = items.at(-1);
  return { items, next: rows.length > limit && last ? { createdAt: last.createdAt, id: last.id } : null };
}

/** A project in use; archived or unknown ones are 404. */
export async function findProject(db: Reader, id: string): Promise<ProjectRow> {
  const [project] = await db.select().from(projects).where(eq(projects.id, id)).limit(1);
  if (!project) throw new Problem(404, 'No project has this id');
  if (project.putAwayAt) throw new Problem(404, 'This project is archived', { putAwayAt: project.putAwayAt });
  return project;
}

/** The project with the demo data, else the oldest in use. */
export async function firstProject(db: Reader): Promise<ProjectRow> {
  const [project] = await db
    .select()
    .from(projects)
    .where(isNull(projects.putAwayAt))
    .orderBy(sql`${projects.isDemo} desc`, asc(projects.createdAt), asc(projects.id))
    .limit(1);
  if (!project) throw new Problem(404, 'There is no project');
  return project;
}

/** The settable fields of a project. */
export interface ProjectValues {
  name?: string | undefined;
  unit?: string | undefined;
  names?: Record<string, string> | undefined;
}

const columnsOf = ({ name, unit, names }: ProjectValues) => ({
  ...(name === undefined ? {} : { name }),
  ...(unit === undefined ? {} : { unit }),
  ...(names === undefined ? {} : { names: new RawJson(JSON.stringify(names)) }),
});

type ProjectVersion = Omit<typeof projectVersions.$inferSelect, 'project'>;

/** Adds the project's present state to its history. */
async function keepVersion(tx: Pick<Database, 'insert'>, { id: project, version, name, unit, names }: ProjectRow): Promise<void> {
  await tx.insert(projectVersions).values({ project, version, name, unit, names }).onConflictDoNothing();
}

export async function createProject(db: Database, values: ProjectValues & { name: string }): Promise<ProjectRow> {
  return db.transaction(async (tx) => {
    const [project] = await tx
      .insert(projects)
      .values({ ...columnsOf(values), name: values.name })
      .returning();
    if (!project) throw new Error('the project was not created');
    await keepVersion(tx, project);
    return project;
  });
}

/** Changes a project in a version that the writer knows; another one stays, and is returned with a 409. Values that aren't named stay. */
export async function changeProject(db: Database, id: string, values: ProjectValues, seen: Seen): Promise<ProjectRow> {
  const columns = columnsOf(values);
  return db.transaction(async (tx) => {
    const [held] = await tx.select().from(projects).where(eq(projects.id, id)).limit(1).for('update');
    const found = held && !held.putAwayAt ? held : await findProject(tx, id);
    if (!seen(found.version)) throw new Problem(409, 'The project was changed elsewhere', { current: found });
    if (Object.keys(columns).length === 0) return found;
    // One from an older version has no history yet.
    await keepVersion(tx, found);
    const [project] = await tx
      .update(projects)
      .set({ ...columns, version: found.version + 1 })
      .where(eq(projects.id, id))
      .returning();
    if (!project) throw new Problem(404, 'No project has this id');
    await keepVersion(tx, project);
    return project;
  });
}

/** The history of a project, newest first. */
export async function listVersions(db: Reader, id: string, limit: number): Promise<ProjectVersion[]> {
  const { version, name, unit, names, createdAt } = projectVersions;
  return db
    .select({ version, name, unit, names, createdAt })
    .from(projectVersions)
    .where(eq(projectVersions.project, id))
    .orderBy(desc(version))
    .limit(limit);
}

/** Puts a project away, with all that is in it; the last one in use stays. */
export async function archiveProject(db: Database, id: string): Promise<void> {
  await db.transaction(async (tx) => {
    const inUse = await tx.select({ id: projects.id }).from(projects).where(isNull(projects.putAwayAt)).for('update');
    await findProject(tx, id);
    if (inUse.length === 1) throw new Problem(409, 'It is the only project in use');
    await tx.update(projects).set({ putAwayAt: sql`now()` }).where(eq(projects.id, id));
  });
}

export async function restoreProject(db: Database, id: string): Promise<ProjectRow> {
  const [project] = await db.update(projects).set({ putAwayAt: null }).where(eq(projects.id, id)).returning();
  if (!project) throw new Problem(404, 'No project has this id');
  return project;
}

/** How many documents a project holds. */
export async function countsOf(db: Reader, project: string): Promise<Counts> {
  const isAway = sql<boolean>`${documents.putAwayAt} is not null`;
  const rows = await db
    .select({ kind: documents.kind, isAway, number: count() })
    .from(documents)
    .where(eq(documents.project, project))
    .groupBy(documents.kind, isAway);
  const counts = Object.fromEntries([...kindNames, 'away'].map((kind) => [kind, 0])) as Counts;
  for (const { kind, isAway, number } of rows) counts[isAway ? 'away' : kind] += number;
  return counts;
}

/** A document in use as part of its project's file: its newest revision, and how many bytes its JSON has. */
export interface ProjectMember {
  id: string;
  kind: DocumentKind;
  head: number;
  bytes: number;
}

/** The documents in use of a project, in order of creation. */
export function membersOf(db: Reader, project: string): Promise<ProjectMember[]> {
  return db
    .select({ id: documents.id, kind: documents.kind, head: documents.head, bytes: sql<number>`octet_length(${revisions.file}::text)` })
    .from(documents)
    .innerJoin(revisions, and(eq(revisions.document, documents.id), eq(revisions.number, documents.head)))
    .where(and(eq(documents.project, project), isNull(documents.putAwayAt)))
    .orderBy(asc(documents.createdAt), asc(documents.id));
}
