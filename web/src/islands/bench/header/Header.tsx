import { useStore } from '@nanostores/react';
import { differences } from '@zygopod/core';
import type { Opening } from '../../../server/data/openings.ts';
import type { Command } from '../../work/commands.ts';
import { Picker } from '../../work/Picker.tsx';
import { ScreenHeader } from '../../work/ScreenHeader.tsx';
import { useBench } from '../context.ts';

/** What is on the bench, and the flip between it and its last revision. */
export function Header({ commands, opening }: { commands: Command[]; opening: Opening }) {
  const { editing, saving } = useBench();
  const tuning = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning);
  const flipped = useStore(editing.$flipped);
  const head = useStore(saving.$head);
  const state = useStore(saving.$state);
  const { id, ground } = opening;
  const unchanged = !flipped && differences(before, tuning).length === 0 && state.at === 'saved';
  return (
    <ScreenHeader
      here="bench"
      bench={`/bench/${id}?ground=${ground.id}`}
      grounds={`/grounds/${ground.id}?tuning=${id}`}
      steps={editing}
      saving={saving}
      unchanged={unchanged}
      commands={commands}
      where={
        <>
          <Picker
            label="Tuning"
            name={tuning.file.name}
            collection="tunings"
            deeds={commands.filter(({ id }) => ['new', 'duplicate', 'rename', 'away'].includes(id))}
            go={(other) => window.location.assign(`/bench/${other}?ground=${ground.id}`)}
          />{' '}
          <span className="digits text-xs">rev {head}</span> on{' '}
          <Picker
            label="Ground"
            name={ground.file.name}
            collection="grounds"
            go={(other) => window.location.assign(`/bench/${id}?ground=${other}`)}
          />
        </>
      }
    >
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
    </ScreenHeader>
  );
}
