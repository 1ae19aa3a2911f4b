import { RevisionList } from '../work/RevisionList.tsx';

/** Chooses another revision of a tuning. */
export function RevisionFinder({ name, id, go, close }: { name: string; id: string; go(revision: number): void; close(): void }) {
  const take = async (number: number) => {
    go(number);
    return null;
  };
  return <RevisionList title={`Revisions of ${name}`} collection="tunings" id={id} verb="Compare" take={take} close={close} />;
}
