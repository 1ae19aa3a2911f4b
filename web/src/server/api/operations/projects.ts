import { collectionOf, collections, kindIn, kindNames, LARGEST_PROJECT, readSearch } from '@zygopod/core';
import { z } from 'zod';
import type { Database } from '../../data/connection.ts';
import { loadDemo } from '../../data/demo.ts';
import type { Place } from '../../data/documents.ts';
import {
  archiveProject,
  changeProject,
  countsOf,
  createProject,
  findProject,
  listProjects,
  listVersions,
  membersOf,
  type ProjectMember,
  type ProjectRow,
  restoreProject,
} from '../../data/projects.ts';
import { jsonText } from '../../data/rawJson.ts';
import { getRevision } from '../../data/revisions.ts';
import { listShelf, type Mark, orders } from '../../data/shelf.ts';
import { Problem } from '../../problem.ts';
import { ifSeen } from '../conditions.ts';
import { after, next, cursorOf as placeCursor } from '../cursor.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { done, json, streamed } from '../responses.ts';
import { counts, project, projectFile, projectVersion, shelfPage, text } from '../shapes.ts';

const name = text(120).refine((value) => value.trim() !== '', 'expected a name');

const values = z
  .strictObject({
    name: name.optional(),
    unit: z.enum(['px', 'm']).optional().meta({ description: 'The unit of its numbers' }),
    names: z
      .record(text(100), text(200))
      .refine((map) => Object.keys(map).length <= 500, 'expected at most 500 names')
      .optional()
      .meta({ description: 'The game’s names for parameters, by path' }),
  })
  .meta({ id: 'ProjectValues' });

const created = values.extend({ name }).meta({ id: 'NewProject' });

const list: Operation = {
  method: 'GET',
  path: '/projects',
  name: 'listProjects',
  words: 'Lists the projects, oldest first, by pages',
  query: z.object({
    limit: z.coerce.number().int().min(1).max(1000).default(1000).meta({ description: 'Projects per page' }),
    after,
    away: z
      .stringbool()
      .default(false)
      .meta({ description: 'List archived documents instead of those in use', override: { type: 'boolean' } }),
  }),
  answers: { 200: { words: 'A page', schema: z.strictObject({ items: z.array(project), next }) } },
  run: async ({ query, database }: OperationRequest<{ away: boolean; limit: number; after?: Place }>) => {
    const page = await listProjects(await database(), query);
    return json({ items: page.items, next: page.next && placeCursor(page.next) });
  },
};

const create: Operation = {
  method: 'POST',
  path: '/projects',
  name: 'makeProject',
  words: 'Creates an empty project',
  body: created,
  answers: { 201: { words: 'The project', schema: project, tagged: true } },
  run: async ({ body, url, database }: OperationRequest<object, z.infer<typeof created>>) => {
    const row = await createProject(await database(), { ...body, name: body.name.trim() });
    return json(row, { status: 201, etag: String(row.version), location: `${url.pathname}/${row.id}` });
  },
};

const read: Operation = {
  method: 'GET',
  path: '/projects/{id}',
  name: 'getProject',
  words: 'Returns a project and how many documents it holds; the ETag is its version',
  answers: { 200: { words: 'The project', schema: project.extend({ counts }), tagged: true } },
  run: async ({ id, database }: OperationRequest) => {
    const db = await database();
    const found = await findProject(db, id);
    const held = await countsOf(db, id);
    return json({ ...found, counts: held }, { etag: `${found.version}-${Object.values(held).join('.')}` });
  },
};

const change: Operation = {
  method: 'PUT',
  path: '/projects/{id}',
  name: 'changeProject',
  words: 'Renames a project, or sets its unit or its names for parameters; absent fields stay. If-Match may name the last known version',
  condition: 'ifSeen',
  body: values,
  answers: { 200: { words: 'The project', schema: project, tagged: true } },
  run: async ({ id, body, request, database }: OperationRequest<object, z.infer<typeof values>>) => {
    const row = await changeProject(await database(), id, { ...body, name: body.name?.trim() }, ifSeen(request.headers));
    return json(row, { etag: String(row.version) });
  },
};

const versionQuery = z.object({
  limit: z.coerce.number().int().min(1).max(200).default(50).meta({ description: 'Maximum number of versions' }),
});

const versions: Operation = {
  method: 'GET',
  path: '/projects/{id}/versions',
  name: 'listProjectVersions',
  words: 'Lists the versions of a project’s name, unit and names, newest first',
  query: versionQuery,
  answers: { 200: { words: 'The versions', schema: z.strictObject({ items: z.array(projectVersion) }) } },
  run: async ({ id, query, database }: OperationRequest<z.infer<typeof versionQuery>>) => {
    const db = await database();
    await findProject(db, id);
    return json({ items: await listVersions(db, id, query.limit) });
  },
};

const away: Operation = {
  method: 'DELETE',
  path: '/projects/{id}',
  name: 'putProjectAway',
  words: 'Archives a project with everything in it; it can be restored. 409 if it is the only one in use',
  answers: { 204: { words: 'Archived' } },
  run: async ({ id, database }: OperationRequest) => {
    await archiveProject(await database(), id);
    return done();
  },
};

const back: Operation = {
  method: 'POST',
  path: '/projects/{id}/back',
  name: 'restoreProject',
  words: 'Restores an archived project',
  answers: { 200: { words: 'The project', schema: project } },
  run: async ({ id, database }: OperationRequest) => json(await restoreProject(await database(), id)),
};

const demo: Operation = {
  method: 'POST',
  path: '/projects/{id}/demo',
  name: 'restoreDemo',
  words:
    'Restores the demo: archived and deleted documents return, and changed ones get a revision with the shipped values. ' +
    'Everything else in the project stays',
  answers: { 200: { words: 'The project', schema: project } },
  run: async ({ id, database }: OperationRequest) => {
    const db = await database();
    const found: ProjectRow = await findProject(db, id);
    if (!found.isDemo) throw new Problem(404, 'This is not the demo’s project');
    await loadDemo(db, 'restore');
    return json(found);
  },
};

/** The parts of a project's file, one document at a time: revisions never change, so that the file is of one moment. */
async function* partsOf(db: Database, head: object, members: readonly ProjectMember[]): AsyncGenerator<string> {
  yield jsonText(head).slice(0, -1);
  for (const kind of kindNames) {
    yield `,"${collectionOf(kind)}":[`;
    let comma = '';
    for (const { id, head: number } of members.filter((member) => member.kind === kind)) {
      yield comma + (await getRevision(db, id, number)).file.text;
      comma = ',';
    }
    yield ']';
  }
  yield '}';
}

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;

const exportFile: Operation = {
  method: 'GET',
  path: '/projects/{id}/file',
  name: 'getProjectFile',
  words: 'Returns a project as one file, with the newest revisions of all documents in use. 422 if it is too large for a project file',
  answers: { 200: { words: 'The file', schema: projectFile }, 422: { words: 'It is too large for one file' } },
  run: async ({ id, database }: OperationRequest) => {
    const db = await database();
    const { name, unit, names } = await findProject(db, id);
    const members = await membersOf(db, id);
    const bytes = members.reduce((sum, member) => sum + member.bytes, 0);
    if (bytes > LARGEST_PROJECT)
      throw new Problem(
        422,
        `The project has ${megabytes(bytes)}, a project file at most ${megabytes(LARGEST_PROJECT)}. ./zygopod pull FOLDER exports any number of files`,
        { found: bytes, most: LARGEST_PROJECT },
      );
    const head = { format: 'zygopod/project', version: 1, name, unit, names };
    return streamed(partsOf(db, head, members), { 'content-type': 'application/json', 'cache-control': 'private, no-cache' });
  },
};

const cursorOf = (mark: Mark) => Buffer.from(JSON.stringify([mark.value, mark.id])).toString('base64url');

const cursor = z.string().transform((text, context): Mark => {
  try {
    const [value, id] = JSON.parse(Buffer.from(text, 'base64url').toString('utf8')) as unknown[];
    if (typeof value === 'string' && value.length <= 400 && z.uuid().safeParse(id).success) return { value, id: id as string };
  } catch {
    // Reported below.
  }
  context.addIssue({ code: 'custom', message: 'expected the next of an earlier page' });
  return z.NEVER;
});

const shelfQuery = z.object({
  kind: z.enum(collections).optional().meta({ description: 'Only documents of this kind' }),
  q: text(200).default('').meta({ description: 'Text in names and notes, and numbers: `walk > 150`', example: 'boots, walk > 150' }),
  sort: z.enum(orders).default('changed').meta({ description: 'By last change, by creation, or by name' }),
  away: z
    .stringbool()
    .default(false)
    .meta({ description: 'List archived documents instead of those in use', override: { type: 'boolean' } }),
  limit: z.coerce.number().int().min(1).max(200).default(50).meta({ description: 'Documents per page' }),
  after: cursor.optional().meta({ description: '`next` of the previous page', override: { type: 'string' } }),
});

const shelf: Operation = {
  method: 'GET',
  path: '/projects/{id}/shelf',
  name: 'listShelf',
  words: 'Lists the documents of a project with their main numbers and newest revisions, by pages',
  query: shelfQuery,
  answers: { 200: { words: 'A page', schema: shelfPage } },
  run: async ({ id, query, database }: OperationRequest<z.infer<typeof shelfQuery>>) => {
    const { kind, q, sort, ...rest } = query;
    const filter = { ...rest, project: id, kind: kind ? kindIn(kind) : null, search: readSearch(q), order: sort };
    const db = await database();
    await findProject(db, id);
    const beyond = filter.after && sort !== 'name' && Number.isNaN(Date.parse(`${filter.after.value}Z`));
    if (beyond) throw new Problem(400, '`after` belongs to a list in another order');
    const { items, next } = await listShelf(db, filter);
    return json({ items, next: next && cursorOf(next) });
  },
};

export const projectOperations = [list, create, read, change, versions, away, back, demo, exportFile, shelf];
