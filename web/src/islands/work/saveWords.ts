import type { SaveState } from './saving.ts';

/** How the work stands with the server, in a word or two. */
export const saveWords: Record<SaveState<unknown>['at'], string> = {
  saved: 'saved',
  keeping: 'keeping …',
  draft: 'draft kept',
  offline: 'kept here only',
  conflict: 'changed elsewhere',
};
