import { useStore } from '@nanostores/react';
import { documentKinds, fileStem, kindIn } from '@zygopod/core';
import { useState } from 'react';
import { download } from '../controls/download.ts';
import { Overlay } from '../controls/Overlay.tsx';
import { exportAll, exportProject, isWhy, projectFile } from './actions.ts';
import { numbersCsv } from './numbersCsv.ts';
import { useShelf } from './shelfWork.ts';

/** Exports from the shelf: the project, its documents, their numbers, a link. */
export function Export({ setProblem, close }: { setProblem(why: string | null): void; close(): void }) {
  const shelf = useShelf();
  const { board } = useStore(shelf.$query);
  const [copied, setCopied] = useState(false);
  const collection = board === 'away' ? 'tunings' : board;
  const give = (work: Promise<string | null>) => void work.then((why) => (why ? setProblem(why) : close()));
  const numbers = async (): Promise<string | null> => {
    const file = await projectFile(shelf);
    if (isWhy(file)) return file.why;
    download(`${fileStem(shelf.project.name)}.csv`, numbersCsv(file['tunings'] as unknown[]), 'text/csv');
    return null;
  };
  const copy = async () => {
    await navigator.clipboard.writeText(window.location.href);
    setCopied(true);
  };
  const formats: readonly (readonly [string, string, () => void])[] = [
    ['The project as one file', 'Everything in it, as it is now; any Zygopod can import it', () => give(exportProject(shelf))],
    [`All ${documentKinds[kindIn(collection)].plural.toLowerCase()} as files`, 'One file each', () => give(exportAll(shelf, collection))],
    ['The numbers of all tunings as CSV', 'One row per parameter, one column per tuning', () => give(numbers())],
    [
      copied ? 'Link copied' : 'A link to this shelf as it is shown',
      'With its search and order',
      () => void copy().catch(() => setProblem('The browser gives no access to its clipboard.')),
    ],
  ];
  return (
    <Overlay title="Export" close={close}>
      <ul>
        {formats.map(([words, help, run]) => (
          <li key={words} className="border-b border-rule/60 py-1.5">
            <button type="button" className="action min-h-6" onClick={run}>
              {words}
            </button>
            <p className="text-xs text-ink-soft">{help}</p>
          </li>
        ))}
      </ul>
    </Overlay>
  );
}
