import { firstTuning, firstYard, type TuningFile, withValue } from '@zygopod/core';
import { createDocument } from '../work/documentActions.ts';
import { inProject } from '../work/project.ts';
import { askServer } from '../work/server.ts';

/** Schemes for a new tuning, each with its parameters and description. */
export const schemes = [
  { id: 'steer', title: 'Steer', words: 'Keys or stick, while they are held' },
  { id: 'click', title: 'Click to go', words: 'A path round walls to where you click' },
  { id: 'step', title: 'Grid steps', words: 'From cell to cell' },
  { id: 'latch', title: 'Hold course', words: 'One press sets the direction' },
  { id: 'turn', title: 'Turn and drive', words: 'Left and right turn, up and down drive' },
] as const;
export type SchemeId = (typeof schemes)[number]['id'];

/** A new tuning for a scheme, in the project's unit of length. */
function tuningFor(id: SchemeId, unit: 'px' | 'm'): TuningFile {
  const { title } = schemes.find((one) => one.id === id) as (typeof schemes)[number];
  const file = firstTuning(`New tuning, ${title.toLowerCase()}`, unit);
  return id === 'click' ? withValue(file, 'route.enabled', true) : id === 'steer' ? file : withValue(file, 'scheme', id);
}

/**
 * Creates a tuning for a scheme in the page's project, with a yard where the project has no ground; returns the address of its bench, or why
 * there is none.
 */
export async function beginWith(id: SchemeId, unit: 'px' | 'm'): Promise<{ address: string } | { why: string }> {
  const query = new URLSearchParams({ limit: '1', ...inProject() });
  const grounds = await askServer<{ items: { id: string }[] }>('GET', `/api/v1/grounds?${query}`);
  if ('why' in grounds) return grounds;
  let ground = grounds.body.items[0]?.id;
  if (!ground) {
    const created = await createDocument('grounds', firstYard(unit));
    if ('why' in created) return created;
    ground = created.id;
  }
  const created = await createDocument('tunings', tuningFor(id, unit));
  return 'why' in created ? created : { address: `/bench/${created.id}?ground=${ground}` };
}
