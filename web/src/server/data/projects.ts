import { and, asc, count, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Kind } from '../kinds.ts';
import { Problem } from '../problem.ts';
import type { Database } from './connection.ts';
import type { Reader } from './documents.ts';
import { RawJson } from './rawJson.ts';
import { documents, projects, revisions } from './schema.ts';

export type ProjectRow = typeof projects.$inferSelect;

/** How many documents of each kind there are in use, and how many are put away. */
export type Counts = Record<Kind | 'away', number>;

/** The projects in use, or those that are put away; oldest first. */
export function listProjects(db: Reader, away: boolean): Promise<ProjectRow[]> {
  return db
    .select()
    .from(projects)
    .where(away ? isNotNull(projects.putAwayAt) : isNull(projects.putAwayAt))
    .orderBy(asc(projects.createdAt), asc(projects.id));
}

/** A project that is in use; put away or unknown ones are 404. */
export async function findProject(db: Reader, id: string): Promise<ProjectRow> {
  const [project] = await db.select().from(projects).where(eq(projects.id, id)).limit(1);
  if (!project) throw new Problem(404, 'No project has this id');
  if (project.putAwayAt) throw new Problem(404, 'This project was put away', { putAwayAt: project.putAwayAt });
  return project;
}

/** The project with the demo data, else the oldest in use. */
export async function firstProject(db: Reader): Promise<ProjectRow> {
  const [project] = await db
    .select()
    .from(projects)
    .where(isNull(projects.putAwayAt))
    .orderBy(sql`${projects.isDemo} desc`, asc(projects.createdAt))
    .limit(1);
  if (!project) throw new Problem(404, 'There is no project');
  return project;
}

/** What of a project can be set. */
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

export async function makeProject(db: Database, values: ProjectValues & { name: string }): Promise<ProjectRow> {
  const [project] = await db
    .insert(projects)
    .values({ ...columnsOf(values), name: values.name })
    .returning();
  return project as ProjectRow;
}

export async function changeProject(db: Database, id: string, values: ProjectValues): Promise<ProjectRow> {
  const columns = columnsOf(values);
  const found = await findProject(db, id);
  if (Object.keys(columns).length === 0) return found;
  const [project] = await db.update(projects).set(columns).where(eq(projects.id, id)).returning();
  return project as ProjectRow;
}

/** Puts a project away, with all that is in it; the last one in use stays. */
export async function putProjectAway(db: Database, id: string): Promise<void> {
  await db.transaction(async (tx) => {
    const inUse = await tx.select({ id: projects.id }).from(projects).where(isNull(projects.putAwayAt)).for('update');
    await findProject(tx, id);
    if (inUse.length === 1) throw new Problem(409, 'It is the only project in use');
    await tx.update(projects).set({ putAwayAt: sql`now()` }).where(eq(projects.id, id));
  });
}

export async function bringProjectBack(db: Database, id: string): Promise<ProjectRow> {
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
  const counts: Counts = { tuning: 0, ground: 0, tape: 0, targets: 0, away: 0 };
  for (const { kind, isAway, number } of rows) counts[isAway ? 'away' : kind] += number;
  return counts;
}

/** The newest files of all documents in use of a project, in the order in which they were made. */
export function filesOf(
  db: Reader,
  project: string,
): Promise<{ id: string; kind: Kind; name: string; head: number; hash: string; file: RawJson }[]> {
  return db
    .select({
      id: documents.id,
      kind: documents.kind,
      name: documents.name,
      head: documents.head,
      hash: revisions.hash,
      file: revisions.file,
    })
    .from(documents)
    .innerJoin(revisions, and(eq(revisions.document, documents.id), eq(revisions.number, documents.head)))
    .where(and(eq(documents.project, project), isNull(documents.putAwayAt)))
    .orderBy(asc(documents.createdAt), asc(documents.id));
}
