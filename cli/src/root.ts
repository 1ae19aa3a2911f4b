import { join } from 'node:path';

/** The repository's root. */
export const root = join(import.meta.dirname, '..', '..');

/** Where a running copy keeps its data: never in the repository's history. */
export const stateFolder = join(root, '.zygopod');
