import { readGround } from '@zygopod/core';
import { RevisionList } from '../work/RevisionList.tsx';
import { useGround } from './session.ts';

/** The revisions of the ground; an old one can be laid on the sheet again, as a step that undo takes back. */
export function History({ id, close }: { id: string; close(): void }) {
  const { steps } = useGround();
  const bring = async (number: number) => {
    const response = await fetch(`/api/v1/grounds/${id}/revisions/${number}`);
    const reading = response.ok ? readGround(((await response.json()) as { file: unknown }).file) : null;
    if (!reading?.ok) return `Revision ${number} could not be fetched.`;
    steps.replace(reading.value, `back to revision ${number}`);
    close();
    return null;
  };
  return <RevisionList title="History" collection="grounds" id={id} verb="Bring back" take={bring} close={close} />;
}
