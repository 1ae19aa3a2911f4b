import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parameterReference } from '@zygopod/core';
import { GOOD } from '../misuse.ts';
import { root } from '../root.ts';

/** Writes what of the documentation is made from the code: the reference of the parameters. */
export function docs(): number {
  writeFileSync(join(root, 'docs/parameters.md'), parameterReference());
  return GOOD;
}
