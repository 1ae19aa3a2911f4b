import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { formulaReference, linkSchema, parameterReference } from '@zygopod/core';
import { GOOD } from '../misuse.ts';
import { root } from '../root.ts';

/** Writes what of the documentation is made from the code: the references of the parameters and of the formulas, and the schema of the link. */
export function docs(): number {
  writeFileSync(join(root, 'docs/parameters.md'), parameterReference());
  writeFileSync(join(root, 'docs/formulas.md'), formulaReference());
  writeFileSync(join(root, 'docs/link.schema.json'), `${JSON.stringify(linkSchema(), null, 2)}\n`);
  return GOOD;
}
