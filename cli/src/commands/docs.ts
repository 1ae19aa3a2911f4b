import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { formulaReference, parameterReference } from '@zygopod/core';
import { GOOD } from '../misuse.ts';
import { root } from '../root.ts';

/** Writes what of the documentation is made from the code: the references of the parameters and of the formulas. */
export function docs(): number {
  writeFileSync(join(root, 'docs/parameters.md'), parameterReference());
  writeFileSync(join(root, 'docs/formulas.md'), formulaReference());
  return GOOD;
}
