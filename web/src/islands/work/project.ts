import { atom } from 'nanostores';

/** The project that the page is about: what is listed is from it, and what is made goes to it. */
export const $project = atom<{ id: string; name: string } | null>(null);

/** What an address of the API says to ask within the page's project. */
export function inProject(): Record<string, string> {
  const project = $project.get();
  return project ? { project: project.id } : {};
}
