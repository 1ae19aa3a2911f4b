import { askServer } from '../work/server.ts';

/** A tape of a project. */
export interface ListedTape {
  id: string;
  name: string;
}

/** The tapes of a project, oldest first. */
export async function listTapes(project: string): Promise<ListedTape[]> {
  const answer = await askServer<{ items: ListedTape[] }>('GET', `/api/v1/projects/${project}/shelf?kind=tapes&sort=made&limit=200`);
  return 'body' in answer ? answer.body.items.toReversed() : [];
}
