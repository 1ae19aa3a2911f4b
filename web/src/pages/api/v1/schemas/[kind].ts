import { jsonSchema } from '@zygopod/core';
import type { APIRoute } from 'astro';
import { Problem } from '../../../../server/problem.ts';
import { kinds } from '../../../../server/schema.ts';

/** The JSON Schema of a file format: tuning, ground or tape. */
export const GET: APIRoute = ({ params }) => {
  const kind = kinds.find((name) => name === params['kind']);
  if (!kind) return new Problem(404, `There are schemas of ${kinds.join(', ')}`).response();
  return new Response(JSON.stringify(jsonSchema(kind), null, 2), { headers: { 'content-type': 'application/schema+json' } });
};
