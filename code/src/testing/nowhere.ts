import { controls, swipes } from '@zygopod/core';
import type { Routine } from '../fold/ir.ts';

const place: Routine = {
  name: 'placeAtStart',
  parameters: ['x', 'y', 'facing'].map((name) => ({ name, kind: 'number' })),
  gives: null,
  uses: new Set(['body']),
  body: [],
  words: '',
  source: 'nowhere',
};

/** The parts of a motion besides its routines, without placement and edges. Test data. */
export const nowhere = { controls, swipes, place, edges: {}, live: [] };
