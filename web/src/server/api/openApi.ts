import { z } from 'zod';
import { createDocument, type ZodOpenApiOperationObject, type ZodOpenApiResponseObject } from 'zod-openapi';
import { createsDocument } from './idempotency.ts';
import { type Operation, parameters } from './operation.ts';
import { file, problem } from './shapes.ts';

const PROBLEM = 'application/problem+json';

/** The problems that an operation can answer with, beside its own answers. */
function problemsOf({ path, query, condition, takesFile, body, method, answers }: Operation): { [status: number]: string | undefined } {
  const isWrite = method !== 'GET';
  const hasBody = takesFile || body !== undefined;
  return {
    ...(createsDocument({ answers, condition, method } as Operation)
      ? { 409: 'A request with the same idempotency key is still in progress' }
      : {}),
    400: 'The request can’t be read',
    401: 'With ZYGOPOD_TOKEN set: the token is missing or wrong',
    ...(isWrite ? { 403: 'The write comes from another origin' } : {}),
    ...(path.includes('{') ? { 404: 'There is nothing of this kind, id or number' } : {}),
    ...(condition ? { 409: 'It was changed elsewhere since; `current` is the present version' } : {}),
    ...(condition && condition !== 'ifSeen' ? { 428: 'No version was named' } : {}),
    ...(hasBody ? { 408: 'The body stopped coming', 413: 'The body is too large', 415: 'The body is no application/json' } : {}),
    421: 'This server does not answer to that host name',
    ...(hasBody || query ? { 422: 'The body or the query isn’t valid; `errors` lists where' } : {}),
    500: 'The server failed; its log has the error',
    503: 'The database can’t be reached, or there are too many requests at once; nothing was saved',
  };
}

function answersOf(operation: Operation): Record<string, ZodOpenApiResponseObject> {
  const responses: Record<string, ZodOpenApiResponseObject> = {};
  for (const [status, words = ''] of Object.entries(problemsOf(operation)))
    responses[status] = { description: words, content: { [PROBLEM]: { schema: problem } } };
  for (const [status, { words, schema, tagged, type = 'application/json' }] of Object.entries(operation.answers))
    responses[status] = {
      description: words,
      ...(schema ? { content: { [type]: { schema } } } : Number(status) >= 400 ? { content: { [PROBLEM]: { schema: problem } } } : {}),
      ...(tagged ? { headers: z.object({ etag: z.string() }) } : {}),
    };
  if (operation.method === 'GET' && Object.values(operation.answers).some(({ tagged }) => tagged))
    responses['304'] = { description: 'If-None-Match names the ETag: nothing has changed' };
  return responses;
}

const conditions = {
  seen: z.object({ 'if-match': z.string().meta({ description: 'The ETag that was seen last', example: '"1"' }) }),
  ifSeen: z.object({
    'if-match': z.string().optional().meta({ description: 'The known ETag; without it nothing is checked', example: '"1"' }),
  }),
  seenOrNone: z.object({
    'if-match': z.string().optional().meta({ description: 'The ETag that was seen last', example: '"1"' }),
    'if-none-match': z.string().optional().meta({ description: '* where there was none', example: '*' }),
  }),
};

const keyed = z.object({
  'idempotency-key': z
    .string()
    .max(200)
    .optional()
    .meta({ description: 'Names the request: repeated within a day, it is done once and answered as before' }),
});

const fileBody = z
  .strictObject({
    file,
    note: z.string().max(2000).optional().meta({ description: 'Why, in words' }),
    id: z.uuid().optional().meta({ description: 'Of a new document: the id that it is to have' }),
    base: z.int().min(1).optional().meta({ description: 'For a draft: its base revision' }),
    draft: z.string().optional().meta({ description: 'For a revision: the ETag of the draft that it ends', example: '"3"' }),
  })
  .meta({ id: 'FileBody' });

/** The tag of an operation. */
function groupOf(path: string): string {
  if (path.startsWith('/trials')) return 'Trials';
  if (path.startsWith('/reports')) return 'Reports';
  if (path.startsWith('/handoffs')) return 'Hand-offs';
  if (path.startsWith('/projects')) return 'Projects';
  if (path === '/laps') return 'Laps';
  if (path.startsWith('/fits')) return 'Fits';
  if (!path.startsWith('/{kind}')) return 'Service';
  return path.includes('/revisions') ? 'Revisions' : path.endsWith('/draft') ? 'Drafts' : 'Documents';
}

function described(operation: Operation): ZodOpenApiOperationObject {
  const body = operation.takesFile ? fileBody : operation.body;
  const names = [...operation.path.matchAll(/\{(\w+)\}/g)].map((match) => match[1] as keyof typeof parameters);
  return {
    operationId: operation.name,
    tags: [groupOf(operation.path)],
    summary: operation.words,
    requestParams: {
      ...(names.length > 0 ? { path: z.object(Object.fromEntries(names.map((name) => [name, parameters[name]]))) } : {}),
      ...(operation.query ? { query: operation.query } : {}),
      ...(operation.condition ? { header: conditions[operation.condition] } : createsDocument(operation) ? { header: keyed } : {}),
    },
    ...(body ? { requestBody: { required: true, content: { 'application/json': { schema: body } } } } : {}),
    responses: answersOf(operation) as ZodOpenApiOperationObject['responses'],
  };
}

let description: object | undefined;

/** The description of the API, OpenAPI 3.1. */
export function openApi(operations: readonly Operation[]): Record<string, unknown> {
  description ??= describe(operations);
  return description as Record<string, unknown>;
}

function describe(operations: readonly Operation[]): object {
  const paths: Record<string, Record<string, ZodOpenApiOperationObject>> = {};
  for (const operation of operations) {
    paths[operation.path] ??= {};
    (paths[operation.path] as Record<string, ZodOpenApiOperationObject>)[operation.method.toLowerCase()] = described(operation);
  }
  return createDocument({
    openapi: '3.1.0',
    info: { title: 'Zygopod', version: '1', description: 'Tunings, grounds and tapes: kept, with drafts and revisions.' },
    servers: [{ url: '/api/v1' }],
    paths,
    components: { securitySchemes: { token: { type: 'http', scheme: 'bearer', description: 'Where ZYGOPOD_TOKEN is set' } } },
    security: [{}, { token: [] }],
  });
}
