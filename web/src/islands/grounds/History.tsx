import { readGround } from '@zygopod/core';
import { fetchDocument } from '../work/documentActions.ts';
import { RevisionList } from '../work/RevisionList.tsx';
import { useGround } from './groundWork.ts';

/** The revisions of the ground; an old one can be laid on the sheet again, as a step that undo takes back. */
export function History({ id, close }: { id: string; close(): void }) {
  const { steps } = useGround();
  const bring = async (number: number) => {
    const kept = await fetchDocument('grounds', id, number);
    if ('why' in kept) return kept.why;
    const reading = readGround(kept.file);
    if (!reading.ok) return `Revision ${number} cannot be read.`;
    steps.replace(reading.value, `back to revision ${number}`);
    close();
    return null;
  };
  return <RevisionList title="History" collection="grounds" id={id} verb="Restore" take={bring} close={close} />;
}
