import '../../../testing/provided.ts';
import { expect, inject, it } from 'vitest';
import { seeds } from '../../../core/src/testing/campaign.ts';
import { Clones } from '../siege/clones.ts';

/** Sequences of a run: four, and those that once found a fault. */
const SEQUENCES = seeds(4, 300, [73, 175, 290]);

it('documents keep their ids and drafts through what version control does with their files', async () => {
  for (const seed of SEQUENCES) expect((await new Clones(inject('address'), seed).play()).join('\n')).toBe('');
}, 1_200_000);
