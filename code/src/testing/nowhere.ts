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

/** What a motion has besides its routines, where it is placed nowhere and meets no edge. Test data. */
export const nowhere = { controls, swipes, place, edges: {} };
