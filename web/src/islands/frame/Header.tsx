import { useStore } from '@nanostores/react';
import type { ReactNode } from 'react';
import { $project } from '../work/project.ts';

/**
 * The left half of the header: the project, and what is open in it. On one line where the window is wide; below that the project, the
 * revision and the state stand in a small line above the names, so that the names stay whole.
 */
export function Open({ document, revision, other, state }: Readonly<Record<'document' | 'revision' | 'other' | 'state', ReactNode>>) {
  return (
    <div className="grid min-w-0 grid-cols-[auto_1fr_auto] items-baseline gap-x-3 [grid-template-areas:'project_revision_state'_'document_document_other'] max-[1259px]:text-xs min-[1260px]:flex">
      <span className="min-w-0 truncate text-ink-soft [grid-area:project]">
        <ProjectLink />
      </span>
      <span className="min-w-0 [grid-area:document]">{document}</span>
      <span className="digits text-xs whitespace-nowrap text-ink-soft [grid-area:revision]">{revision}</span>
      <span className="min-w-0 whitespace-nowrap [grid-area:other]">{other}</span>
      <span className="[grid-area:state]">{state}</span>
    </div>
  );
}

/** The project of the page, a link to its shelf. */
function ProjectLink() {
  const project = useStore($project);
  return (
    <a
      href={project ? `/shelf/${project.id}` : '/shelf'}
      className="block max-w-[25ch] truncate py-1 leading-4 hover:text-ink"
      title={`${project?.name ?? ''}: open its shelf`}
    >
      {project?.name}
    </a>
  );
}

const counted = (count: number) => `${count} change${count === 1 ? '' : 's'}`;

/** The revision that a document's changes stand on: `rev 1 + 2 changes`. */
export const revisionWords = (head: number, changes: number): string =>
  head === 0 ? 'not saved yet' : `rev ${head}${changes > 0 ? ` + ${counted(changes)}` : ''}`;
