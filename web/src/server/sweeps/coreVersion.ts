import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { VERSION } from '@zygopod/core';

/** The sources of a folder, in order of their names; tests are none. */
const sourcesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.ts') && !name.endsWith('.test.ts'))
    .sort();

/** Version of the core with a mark of its sources, `0.3.1+1f2e3d4c`: copies that measure alike have the same. `core`: the folder of the core. */
export function coreVersion(core: string): string {
  const hash = createHash('sha256');
  const folder = join(core, 'src');
  for (const name of sourcesIn(folder)) hash.update(name.replaceAll('\\', '/')).update(readFileSync(join(folder, name)));
  return `${VERSION}+${hash.digest('hex').slice(0, 8)}`;
}
