import { useStore } from '@nanostores/react';
import { useListing } from '../work/listing.ts';
import { useSweep } from './context.ts';

/** The choice of a tape, which the metrics “on the tape” are of. */
export function TapeChoice() {
  const sweep = useSweep();
  const chosen = useStore(sweep.$tape);
  const { items } = useListing('tapes', '');
  if (items.length === 0 && !chosen) return null;
  const others = items.filter(({ id }) => id !== chosen?.id);
  return (
    <label className="block">
      <span className="rubric mb-0.5 block">Tape</span>
      <select
        className="min-h-6 w-full [text-align-last:left]"
        title="Driven on the ground; its metrics are in the list above"
        value={chosen?.id ?? ''}
        onChange={(event) => void sweep.chooseTape(event.target.value || null)}
      >
        <option value="">none</option>
        {chosen && <option value={chosen.id}>{chosen.tape.name}</option>}
        {others.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
