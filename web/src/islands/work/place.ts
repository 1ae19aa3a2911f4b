import { createContext, useContext } from 'react';
import type { Opening, Subject } from '../../server/data/openings.ts';
import { $project } from './project.ts';

/** A screen's entry in the index: start of its address, name, and the kind of document that it edits. */
export interface ScreenName {
  id: string;
  title: string;
  subject: Subject | 'project';
}

/** The documents at hand, by their ids; and the project, where it isn't the page's. */
export type Place = Readonly<Partial<Record<Subject | 'project', string>>>;

const otherThan: Readonly<Record<Subject, Subject>> = { tuning: 'ground', ground: 'tuning' };

/** The open documents that exist on the server. */
export const placeOf = ({ tuning, ground }: Opening): Place => ({
  ...(tuning.head > 0 ? { tuning: tuning.id } : {}),
  ...(ground.head > 0 ? { ground: ground.id } : {}),
});

/** Where a screen shows the documents of a place; without its own one, the first of the project. */
export function addressOf({ id, subject }: ScreenName, place: Place): string {
  const project = place.project ?? $project.get()?.id;
  if (subject === 'project') return project ? `/${id}/${project}` : `/${id}`;
  const [own, other] = [place[subject], otherThan[subject]];
  if (own === undefined) return project ? `/${id}?project=${project}` : `/${id}`;
  return `/${id}/${own}${place[other] === undefined ? '' : `?${other}=${place[other]}`}`;
}

/** The screens there are, and which of them is shown. */
export const ScreensContext = createContext<{ screens: readonly ScreenName[]; here: ScreenName } | null>(null);

export function useScreens(): { screens: readonly ScreenName[]; here: ScreenName } {
  const screens = useContext(ScreensContext);
  if (!screens) throw new Error('outside of all screens');
  return screens;
}
