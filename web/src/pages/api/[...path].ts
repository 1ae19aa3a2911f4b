import type { APIRoute } from 'astro';
import { Problem } from '../../server/problem.ts';

/** Whatever no endpoint answers. */
export const ALL: APIRoute = ({ url }) => new Problem(404, 'There is nothing here', { path: url.pathname }).response();
