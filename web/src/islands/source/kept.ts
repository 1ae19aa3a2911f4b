import type { KeptSource } from '@zygopod/core';
import { askServer, type Outcome } from '../work/server.ts';
import type { NamedParameters } from './pasting.ts';

/** A source as the server keeps it with a tuning. */
export interface StoredSource {
  version: number;
  /** The newest revision when it was kept. */
  revision: number;
  source: KeptSource;
  /** The file of the project's folder that it is linked to. */
  path: string | null;
  updatedAt: string;
}

const address = (tuning: string) => `/api/v1/tunings/${tuning}/source`;

/** The source that is kept with a tuning; null if there is none; or why it is not known. */
export async function fetchSource(tuning: string): Promise<{ stored: StoredSource | null } | { why: string }> {
  const answer = await askServer<Partial<StoredSource>>('GET', address(tuning));
  if ('why' in answer) return { why: answer.why };
  return { stored: answer.body.source ? (answer.body as StoredSource) : null };
}

/** Keeps a source with a tuning in place of the version that was seen last (null: none). `chosen` is remembered for the project. */
export function storeSource(
  tuning: string,
  { source, path }: Pick<StoredSource, 'source' | 'path'>,
  seen: number | null,
  chosen: NamedParameters = {},
): Promise<Outcome<StoredSource>> {
  return askServer<StoredSource>('PUT', address(tuning), { body: { source, path, chosen }, seen: seen ?? 0 });
}

/** Forgets the source of a tuning. */
export function forgetSource(tuning: string, seen: number): Promise<Outcome<unknown>> {
  return askServer('DELETE', address(tuning), { seen });
}

/** Which parameters were chosen by hand for names in a project; none where the server can't be reached. */
export async function chosenNames(project: string): Promise<NamedParameters> {
  const answer = await askServer<{ names: NamedParameters }>('GET', `/api/v1/projects/${project}/source-names`);
  return 'body' in answer ? answer.body.names : {};
}
