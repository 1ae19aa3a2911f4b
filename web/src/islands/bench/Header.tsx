import { useStore } from '@nanostores/react';
import { useTuning } from '../tuning/context.ts';
import type { Command } from '../work/commands.ts';
import { documentDeeds } from '../work/documentCommands.ts';
import { Picker } from '../work/Picker.tsx';
import { addressOf, placeOf, useScreens } from '../work/place.ts';
import { currentOf } from '../work/work.ts';

/** What is on the bench, and on which ground. */
export function Where({ commands }: { commands: Command[] }) {
  const { editing, saving, opening } = useTuning();
  const { here } = useScreens();
  const tuning = useStore(editing.$tuning);
  const head = useStore(saving.$head);
  const go = (over: object) => window.location.assign(addressOf(here, { ...placeOf(opening), ...over }));
  return (
    <>
      <Picker
        label="Tuning"
        name={tuning.file.name}
        collection="tunings"
        deeds={documentDeeds(commands)}
        go={(other) => go({ tuning: other })}
      />{' '}
      <span className="digits text-xs">rev {head}</span> on{' '}
      <Picker label="Ground" name={currentOf(opening.ground).name} collection="grounds" go={(other) => go({ ground: other })} />
    </>
  );
}

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
