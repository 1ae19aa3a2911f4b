import { atom } from 'nanostores';

/** The page's project: lists come from it, and new documents go to it. */
export const $project = atom<{ id: string; name: string } | null>(null);

/** Query of an API address that selects the page's project. */
export function inProject(): Record<string, string> {
  const project = $project.get();
  return project ? { project: project.id } : {};
}
