import { useEffect } from 'react';
import type { ShelfOpening } from '../../server/data/openings.ts';
import { $project } from '../work/project.ts';
import { Start } from './Start.tsx';

/** The screen of a project that has nothing to show on it yet. */
export function StartPage({ project, subject }: ShelfOpening & { subject: 'tuning' | 'ground' }) {
  useEffect(() => $project.set(project), [project]);
  return (
    <>
      <p className="mx-auto max-w-4xl px-6 pt-8 text-ink-soft">
        {project.name} has no {subject} yet.
      </p>
      <Start project={project} imported={() => window.location.reload()} />
    </>
  );
}
