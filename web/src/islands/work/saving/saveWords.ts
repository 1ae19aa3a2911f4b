import type { SaveState } from './state.ts';

/** How the work stands with the server, in a word or two. */
export const saveWords: Record<SaveState<unknown>['at'], string> = {
  saved: 'saved',
  keeping: 'saving draft …',
  draft: 'draft saved',
  offline: 'not sent yet',
  refused: 'not saved',
  conflict: 'changed elsewhere',
};
