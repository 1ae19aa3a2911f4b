import { useStore } from '@nanostores/react';
import { useEffect, useState } from 'react';
import { listSets } from '../judging/targets.ts';
import { useSweep } from './context.ts';

/** The choice of the target set that cells are compared with. */
export function TargetChoice() {
  const sweep = useSweep();
  const chosen = useStore(sweep.$targets);
  const [sets, setSets] = useState<Awaited<ReturnType<typeof listSets>>>([]);
  useEffect(() => {
    let isCurrent = true;
    void listSets().then((all) => isCurrent && setSets(all));
    return () => {
      isCurrent = false;
    };
  }, []);
  if (!chosen || sets.length === 0) return null;
  return (
    <label className="block">
      <span className="rubric mb-0.5 block">Targets</span>
      <select
        className="min-h-6 w-full [text-align-last:left]"
        value={chosen.id}
        onChange={(event) => void sweep.chooseTargets(event.target.value)}
      >
        {sets.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
