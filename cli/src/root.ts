import { join } from 'node:path';

/** The repository's root. */
export const root = join(import.meta.dirname, '..', '..');

/** Where a running copy keeps its data: never in the repository's history. ZYGOPOD_STATE puts it elsewhere. */
export const stateFolder = process.env['ZYGOPOD_STATE'] ?? join(root, '.zygopod');
