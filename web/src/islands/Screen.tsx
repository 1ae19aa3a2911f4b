import { type ComponentType, lazy, type ReactNode, Suspense, useMemo } from 'react';
import type { Opening } from '../server/data/openings.ts';
import { type AnyOpening, screens } from './screens.ts';
import { ScreensContext } from './work/place.ts';
import { $project } from './work/project.ts';
import { fetchKept } from './work/saving/atHand.ts';

/** A screen's island, and meanwhile what this browser kept of the document that it works on. */
function islandOf(id: string, opening: AnyOpening) {
  const screen = screens.find((one) => one.id === id);
  if (!screen) throw new Error(`no screen is called ${id}`);
  const { subject, island } = screen;
  const document = subject !== 'project' && subject in opening ? (opening as Opening)[subject].id : null;
  return lazy(async () => {
    const [component] = await Promise.all([island(), document && fetchKept(document)]);
    $project.set(opening.project);
    return { default: component as ComponentType<{ opening: AnyOpening }> };
  });
}

/** The one island of a page: shows the screen that the address names. */
export function Screen({ id, opening, waiting }: { id: string; opening: AnyOpening; waiting?: ReactNode }) {
  const here = screens.find((screen) => screen.id === id);
  const Island = useMemo(() => islandOf(id, opening), [id, opening]);
  if (!here) throw new Error(`no screen is called ${id}`);
  return (
    <ScreensContext value={{ screens, here }}>
      <Suspense fallback={waiting}>
        <Island opening={opening} />
      </Suspense>
    </ScreensContext>
  );
}
