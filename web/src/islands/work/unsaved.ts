import { collectionOf } from '@zygopod/core';
import type { Opening } from '../../server/data/openings.ts';
import { inProject } from './project.ts';
import { askServer, type Outcome } from './server.ts';

/** Creates the unsaved documents of a page on the server: its ground, then its tuning, with the ids that the page gave them. */
export async function createUnsaved(opening: Opening): Promise<Outcome<unknown>> {
  for (const subject of ['ground', 'tuning'] as const) {
    const document = opening[subject];
    if (document.head > 0) continue;
    const query = new URLSearchParams(inProject());
    const created = await askServer('POST', `/api/v1/${collectionOf(subject)}?${query}`, {
      body: { file: document.saved, id: document.id },
    });
    // The answer to an earlier try was lost, and it had arrived.
    if (created.is !== 'ok' && created.is !== 'conflict') return created;
    document.head = 1;
  }
  window.history.replaceState(null, '', `/bench/${opening.tuning.id}?ground=${opening.ground.id}`);
  return { is: 'ok', body: null };
}
