import { useStore } from '@nanostores/react';
import { changesSince, handOver, writers } from '@zygopod/code/constants';
import { differences, handOffPathFault, unitsWord } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { download } from '../controls/download.ts';
import { Trouble } from '../controls/Trouble.tsx';
import { Open, revisionWords } from '../frame/Header.tsx';
import { DocumentPicker } from '../frame/Picker.tsx';
import { Shell } from '../frame/Shell.tsx';
import { openTuningWork, TuningContext } from '../tuning/context.ts';
import { documentActions } from '../work/documentCommands.ts';
import { currentOf } from '../work/work.ts';
import { Checks } from './Checks.tsx';
import { Choices } from './Choices.tsx';
import { FileText } from './FileText.tsx';
import { Formulas } from './Formulas.tsx';
import { Handed } from './Handed.tsx';
import { type Choice, choiceOf, HandOffs, keepChoice, type Part, parts } from './handOffs.ts';
import { InCode } from './inCode/InCode.tsx';
import { SourceStore } from './inCode/sourceStore.ts';
import { LabelField } from './LabelField.tsx';
import { MotionCode } from './MotionCode.tsx';
import { Parts } from './Parts.tsx';

/** The Hand-off: a tuning as constants in the game's own language, units and names, and what was handed over before. */
export function HandOff({ opening }: { opening: Opening }) {
  const work = useMemo(() => openTuningWork(opening), [opening]);
  const handOffs = useMemo(() => new HandOffs(opening.tuning.id, opening.project.id), [opening]);
  const kept = useStore(handOffs.$kept);
  const names = useStore(handOffs.$names);
  const why = useStore(handOffs.$why);
  const tuning = useStore(work.editing.$plainTuning);
  const before = useStore(work.editing.$beforeTuning);
  const head = useStore(work.saving.$head);
  const [own, setOwn] = useState<Choice | null>(null);
  const [label, setLabel] = useState('');
  const [ownPath, setPath] = useState<string | null>(null);
  const store = useMemo(() => new SourceStore(opening.tuning.id), [opening]);
  const stored = useStore(store.$stored);
  const sourceTrouble = useStore(store.$why);
  const [part, setPart] = useState<Part | null>(partOf);
  // A tuning with code opens on it; nothing is shown until that is known.
  const isKnown = stored !== undefined || sourceTrouble !== null;
  useEffect(() => {
    if (isKnown) setPart((named) => named ?? (stored ? 'code' : 'numbers'));
  }, [isKnown, stored]);
  const turnTo = (to: Part) => {
    const url = new URL(window.location.href);
    url.searchParams.set('part', to);
    window.history.replaceState(null, '', url);
    setPart(to);
  };
  useEffect(() => {
    void handOffs.load();
    void store.load();
  }, [handOffs, store]);

  const choice = useMemo(() => own ?? choiceOf(opening.project.id, kept), [own, opening, kept]);
  const isChanged = differences(before, tuning).length > 0;
  const handed = useMemo(
    () => handOver(tuning, isChanged ? `rev ${head}, changed` : `rev ${head}`, { ...choice, names }),
    [tuning, isChanged, head, choice, names],
  );
  const last = kept.find(({ to }) => to === choice.to);
  const path = (ownPath ?? last?.path ?? '').trim();
  const pathFault = path === '' ? null : handOffPathFault(path);
  const isHeld = handed.faults.length > 0 || pathFault !== null;
  const changes = useMemo(() => (last ? changesSince(last.values, handed.values) : []), [last, handed]);
  const choose = (change: Partial<Choice>) => {
    const next = { ...choice, ...change };
    keepChoice(opening.project.id, next);
    setOwn(next);
  };
  const keep = () =>
    handOffs.keep({
      tuning: { id: opening.tuning.id, revision: head, name: tuning.file.name },
      changedSince: isChanged,
      to: choice.to,
      units: unitsWord(choice.units),
      label: label.trim(),
      ...(choice.style ? { style: choice.style } : {}),
      all: choice.all,
      ...(path === '' ? {} : { path }),
      values: handed.values,
    });
  const save = () => {
    download(handed.name, handed.text, 'text/plain');
    void keep();
  };
  const copy = () =>
    navigator.clipboard
      .writeText(handed.text)
      .then(keep)
      .catch(() => handOffs.$why.set('The browser gives no access to its clipboard.'));

  return (
    <TuningContext value={work}>
      <Shell
        title="Hand-off"
        work={work}
        own={[]}
        unchanged={!isChanged}
        open={(commands, state) => (
          <Open
            document={<DocumentPicker subject="tuning" name={tuning.file.name} opening={opening} actions={documentActions(commands)} />}
            revision={revisionWords(head, 0)}
            other={null}
            state={state}
          />
        )}
      >
        <Parts part={part} choose={turnTo} />
        {part === 'code' && stored !== undefined && (
          <InCode store={store} handOffs={handOffs} head={head} isChanged={isChanged} project={opening.project.id} />
        )}
        {part === 'motion' && <MotionCode file={tuning.file} to={choice.to} choose={(to) => choose({ to })} />}
        {part === 'formulas' && <Formulas tuning={tuning} unit={work.drive.world.ground.unit} />}
        {part === 'checks' && (
          <Checks file={tuning.file} id={opening.tuning.id} project={opening.project.id} ground={currentOf(opening.ground)} />
        )}
        {part === 'numbers' && (
          <div className="grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)_260px]">
            <Choices choice={choice} choose={choose} names={names} rename={(next) => void handOffs.rename(next)} handed={handed}>
              <PathField path={ownPath ?? last?.path ?? ''} stored={last?.path ?? ''} fault={pathFault} set={setPath} />
            </Choices>
            <section aria-label="The file" className="flex min-h-0 min-w-0 flex-col px-3.5 py-2.5">
              <header className="flex items-baseline gap-4">
                <h2 className="font-semibold" data-testid="file-name">
                  {handed.name}
                </h2>
                <p className="text-ink-soft" data-testid="since">
                  {!last
                    ? 'not handed over yet'
                    : changes.length === 0
                      ? `as handed over with rev ${last.tuning.revision}${last.label ? ` (${last.label})` : ''}`
                      : `since rev ${last.tuning.revision}${last.label ? ` (${last.label})` : ''}: ${changes.length} ${changes.length === 1 ? 'number' : 'numbers'}`}
                </p>
                <span className="ml-auto flex items-baseline gap-4">
                  <LabelField label={label} set={setLabel} />
                  <button type="button" className="action min-h-6" disabled={isHeld} onClick={save}>
                    Save
                  </button>
                  <button type="button" className="action min-h-6 font-semibold" disabled={isHeld} onClick={() => void copy()}>
                    Copy
                  </button>
                </span>
              </header>
              <FileText handed={handed} changes={changes} comment={writers.find(({ id }) => id === choice.to)?.comment ?? null} />
            </section>
            <Handed kept={kept} last={last} changes={changes} />
          </div>
        )}
      </Shell>
      <Trouble why={why} close={() => handOffs.$why.set(null)} />
      <Trouble why={sourceTrouble} close={() => store.$why.set(null)} />
    </TuningContext>
  );
}

/** The part that the address names, if any. */
function partOf(): Part | null {
  const named = new URLSearchParams(typeof window === 'undefined' ? '' : window.location.search).get('part') ?? '';
  return Object.hasOwn(parts, named) ? (named as Part) : null;
}

/** Where in the project's folder each saved revision writes this hand-off; `stored`: the path of the last one. */
function PathField({ path, stored, fault, set }: { path: string; stored: string; fault: string | null; set(path: string): void }) {
  return (
    <section className="border-t border-rule pt-2">
      <label className="block">
        <span className="rubric">Path in the folder</span>
        <input
          className="digits mt-0.5 min-h-6 w-full border-b border-rule bg-transparent text-[13px]"
          data-work={stored}
          placeholder="src/motion.h"
          maxLength={200}
          spellCheck={false}
          value={path}
          aria-invalid={fault !== null}
          aria-describedby="hand-off-path"
          onChange={(event) => set(event.target.value)}
        />
      </label>
      <p id="hand-off-path" className={`text-xs ${fault ? 'text-now' : 'text-ink-soft'}`} role={fault ? 'alert' : undefined}>
        {fault ? `▲ ${fault}` : 'With --files each saved revision writes it there, once it was handed over.'}
      </p>
    </section>
  );
}
