import { z } from 'zod';
import { RawJson } from '../../data/rawJson.ts';
import { keepReport, listReports, type ReportRow } from '../../data/reports.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { json } from '../responses.ts';
import { text } from '../shapes.ts';

const key = z.string().regex(/^[A-Za-z]\w{0,60}(\(\d{1,2}\))?$/, 'the key of a metric');

const report = z
  .strictObject({
    tuning: z.strictObject({ id: z.uuid(), revision: z.int().min(1), name: text(120) }),
    changedSince: z.boolean().meta({ description: 'True if it was drilled with unsaved changes' }),
    ground: z
      .strictObject({ id: z.uuid(), revision: z.int().min(1), name: text(120) })
      .meta({ description: 'The ground of the judgement' }),
    targets: z
      .strictObject({ id: z.uuid().nullable(), revision: z.int().min(0), name: text(120) })
      .meta({ description: 'The target set; id null: it isn’t a saved document' }),
    core: z
      .string()
      .regex(/^\d+\.\d+\.\d+$/)
      .meta({ description: 'Version of the core that measured' }),
    metrics: z.record(key, z.number()).meta({ description: 'All metrics by their keys' }),
    judged: z
      .array(z.strictObject({ metric: key, min: z.number().optional(), max: z.number().optional(), ok: z.boolean().nullable() }))
      .max(200)
      .meta({ description: 'The targets, and whether each was met; null: it does not apply' }),
    snags: z
      .array(z.strictObject({ id: text(60), severity: z.enum(['fault', 'risk', 'hint']) }))
      .max(500)
      .meta({ description: 'The faults found' }),
  })
  .meta({ id: 'Report' });

const kept = report.extend({ id: z.uuid(), createdAt: z.iso.datetime() }).meta({ id: 'KeptReport' });

const answerOf = ({ id, createdAt, report: { text } }: ReportRow) =>
  new RawJson(`{"id":${JSON.stringify(id)},"createdAt":${JSON.stringify(createdAt)},${text.trim().slice(1)}`);

const keep: Operation = {
  method: 'POST',
  path: '/reports',
  name: 'keepReport',
  words: 'Saves the drill results of a tuning',
  body: report,
  answers: { 201: { words: 'The report', schema: kept }, 404: { words: 'The tuning doesn’t exist' } },
  run: async ({ body, database }: OperationRequest<object, z.infer<typeof report>>) => {
    const { id: tuning, revision } = body.tuning;
    const row = await keepReport(await database(), { tuning, revision, report: new RawJson(JSON.stringify(body)) });
    return json(answerOf(row), { status: 201 });
  },
};

const listQuery = z.object({
  tuning: z.uuid().meta({ description: 'The tuning' }),
  limit: z.coerce.number().int().min(1).max(200).default(50).meta({ description: 'Maximum number of reports' }),
});

const list: Operation = {
  method: 'GET',
  path: '/reports',
  name: 'listReports',
  words: 'Lists the reports of a tuning, newest first',
  query: listQuery,
  answers: { 200: { words: 'The reports', schema: z.strictObject({ items: z.array(kept) }) } },
  run: async ({ query, database }: OperationRequest<z.infer<typeof listQuery>>) =>
    json({ items: (await listReports(await database(), query.tuning, query.limit)).map(answerOf) }),
};

export const reportOperations = [keep, list];
