import { useRef } from 'react';
import { createDocument } from '../work/documentActions.ts';
import { storeSource } from './kept.ts';
import { Paste } from './Paste.tsx';
import type { Pasting, ReadPasting } from './pasting.ts';
import { suitableGround } from './suitableGround.ts';

/** Makes a tuning of numbers that are pasted from code, keeps the code with it, and opens it on a ground of its scale. */
export function PasteNew({ project, close }: { project: string; close(): void }) {
  // What is done already when a later step fails is not done again.
  const done = useRef<{ tuning?: string; isKept?: boolean }>({});
  const finish = async ({ pasted, terms, kept }: ReadPasting, { chosen }: Pasting): Promise<string | null> => {
    if (!done.current.tuning) {
      const answer = await createDocument('tunings', pasted.file, pasted.note);
      if ('why' in answer) return answer.why;
      done.current.tuning = answer.id;
    }
    const { tuning } = done.current;
    if (!done.current.isKept) {
      const stored = await storeSource(tuning, { source: kept(), path: null }, null, chosen);
      if ('why' in stored) return `The tuning was created, but your code could not be kept with it: ${stored.why}`;
      done.current.isKept = true;
    }
    const ground = await suitableGround(pasted.file, terms);
    window.location.assign(`/bench/${tuning}${ground ? `?ground=${ground}` : ''}`);
    return null;
  };
  return <Paste title="Paste numbers from code" verb="Create tuning" project={project} finish={finish} close={close} />;
}
