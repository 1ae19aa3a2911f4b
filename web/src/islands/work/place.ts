import { createContext, useContext } from 'react';
import type { Opening, Subject } from '../../server/data/openings.ts';

/** A screen as others know it: what its address begins with, what it is called, and which document it works on. */
export interface ScreenName {
  id: string;
  title: string;
  subject: Subject;
}

/** The documents at hand, by their ids. */
export type Place = Readonly<Record<Subject, string>>;

const otherThan: Readonly<Record<Subject, Subject>> = { tuning: 'ground', ground: 'tuning' };

export const placeOf = ({ tuning, ground }: Opening): Place => ({ tuning: tuning.id, ground: ground.id });

/** Where a screen shows the documents of a place. */
export function addressOf({ id, subject }: ScreenName, place: Place): string {
  const other = otherThan[subject];
  return `/${id}/${place[subject]}?${other}=${place[other]}`;
}

/** The screens there are, and which of them is shown. */
export const ScreensContext = createContext<{ screens: readonly ScreenName[]; here: ScreenName } | null>(null);

export function useScreens(): { screens: readonly ScreenName[]; here: ScreenName } {
  const screens = useContext(ScreensContext);
  if (!screens) throw new Error('outside of all screens');
  return screens;
}
