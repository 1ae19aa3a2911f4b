import type { APIRoute } from 'astro';
import { answer } from '../../server/api/answer.ts';

/** The API: what it does stands in server/api/operations. */
export const ALL: APIRoute = ({ request, url, locals }) => answer(request, url, locals.requestId);
