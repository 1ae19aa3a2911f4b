import { useStore } from '@nanostores/react';
import { useTuning } from '../tuning/context.ts';

/** The flip between the tuning and its last revision. */
export function Flip() {
  const { editing } = useTuning();
  const flipped = useStore(editing.$flipped);
  return (
    <button
      type="button"
      aria-pressed={flipped}
      title="Flip between now and the last saved revision (B)"
      className="flex border border-ink"
      onClick={() => editing.flip()}
    >
      <span className={`px-2 py-0.5 ${flipped ? 'text-ink-soft' : 'bg-ink text-sheet'}`}>Now</span>
      <span className={`px-2 py-0.5 ${flipped ? 'bg-other text-sheet' : 'text-ink-soft'}`}>Before</span>
    </button>
  );
}
