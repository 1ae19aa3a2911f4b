import type { ComponentType } from 'react';
import type { Opening, ShelfOpening } from '../server/data/openings.ts';
import type { ScreenName } from './work/place.ts';

/** A screen: `/id/…` shows its island, opened with the document that the address names and the other that comes with it. */
interface Screen extends ScreenName {
  island(): Promise<ComponentType<{ opening: never }>>;
}

/** The initial data of a page. */
export type AnyOpening = Opening | ShelfOpening;

/** All screens, in the order of the header. To add one: its folder, and its entry here. */
export const screens: readonly Screen[] = [
  { id: 'bench', title: 'Bench', subject: 'tuning', island: async () => (await import('./bench/Bench.tsx')).Bench },
  { id: 'compare', title: 'Compare', subject: 'tuning', island: async () => (await import('./compare/Compare.tsx')).Compare },
  { id: 'drills', title: 'Drills', subject: 'tuning', island: async () => (await import('./drills/Drills.tsx')).Drills },
  { id: 'sweep', title: 'Sweep', subject: 'tuning', island: async () => (await import('./sweep/Sweep.tsx')).Sweep },
  { id: 'grounds', title: 'Grounds', subject: 'ground', island: async () => (await import('./grounds/Grounds.tsx')).Grounds },
  { id: 'game', title: 'Game', subject: 'tuning', island: async () => (await import('./game/Game.tsx')).Game },
  { id: 'handoff', title: 'Hand-off', subject: 'tuning', island: async () => (await import('./handoff/HandOff.tsx')).HandOff },
  { id: 'shelf', title: 'Shelf', subject: 'project', island: async () => (await import('./shelf/Shelf.tsx')).Shelf },
];
