import '../../../testing/provided.ts';
import { expect, inject, it } from 'vitest';
import { campaign } from '../../../core/src/testing/campaign.ts';
import { Clones } from '../siege/clones.ts';

/** Sequences of a run. */
const SEQUENCES = campaign(6, 300);

it('documents keep their ids and drafts through what version control does with their files', async () => {
  for (let seed = 1; seed <= SEQUENCES; seed++) expect((await new Clones(inject('address'), seed).play()).join('\n')).toBe('');
}, 1_200_000);
