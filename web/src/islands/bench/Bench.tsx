import { useStore } from '@nanostores/react';
import { differences } from '@zygopod/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { FileChooser } from '../controls/FileChooser.tsx';
import { Trouble } from '../controls/Trouble.tsx';
import { Figures } from '../figures/Figures.tsx';
import { Shell } from '../frame/Shell.tsx';
import { fetchChosen } from '../judging/targets.ts';
import { Strip } from '../strip/Strip.tsx';
import { openTuningWork, TuningContext } from '../tuning/context.ts';
import { TuningOnGround } from '../tuning/TuningOnGround.tsx';
import { kindOf } from '../work/importing/reading.ts';
import { Naming } from '../work/Naming.tsx';
import { RevisionList } from '../work/RevisionList.tsx';
import { benchCommands, listenToTrials } from './commands.ts';
import { DriveKeeper, driveLeftBehind } from './driveKeeper.ts';
import { Flip } from './Flip.tsx';
import { drivenTuning } from './laps/drivenTuning.ts';
import { HandLaps } from './laps/handLaps.ts';
import { Aside } from './panels/Aside.tsx';
import { Notices } from './panels/Notices.tsx';
import { Now } from './panels/Now.tsx';
import { Rule } from './Rule.tsx';
import { TapeBar } from './TapeBar.tsx';
import { emptyTape, TapeEditing } from './tapeEditor/editing.ts';
import { TapeEditor } from './tapeEditor/TapeEditor.tsx';
import {
  exportTape,
  importTape,
  keepTape,
  loopLast,
  openNamed,
  openTape,
  playTape,
  saveTapeRevision,
  type TapeActions,
  tapeName,
} from './tapes.ts';
import { Yard } from './Yard.tsx';

/** Gestures for looking at things. */
const looking = [
  ['Space and drag', 'Move the yard; the wheel zooms, a double click fits'],
  [', and .', 'On the strip: a tick back, a tick on'],
  ['- [ ] =', 'Hold: try the number focused last × 0.25, 0.5, 2, 4'],
] as const;

/** Heights of strip and figures at first: the yard has the rest, more than a third of a window of 1280 × 800. */
const firstBands = () => (window.innerHeight < 760 ? { strip: 100, figures: 220 } : { strip: 110, figures: 220 });

/** The bench: the yard between Now and what has changed, the strip, and the figures. */
export function Bench({ opening }: { opening: Opening }) {
  const work = useMemo(() => openTuningWork(opening), [opening]);
  const [bands, setBands] = useState(firstBands);
  const [asking, ask] = useState<'name' | 'history' | null>(null);
  const [trouble, setProblem] = useState<string | null>(null);
  const [editing, edit] = useState<TapeEditing | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const tapes = useMemo<TapeActions>(() => {
    const editLooped = () => {
      const loop = work.drive.$loop.get();
      if (loop) edit(new TapeEditing(loop.tape, loop.source));
    };
    return {
      loop: () => setProblem(loopLast(work)),
      drive: () => work.drive.drive(),
      keep: () => ask('name'),
      open: (id) => void openTape(work, id).then(setProblem),
      edit: () => {
        const why = work.drive.$loop.get() ? null : loopLast(work);
        if (why) setProblem(why);
        else editLooped();
      },
      write: () => {
        setProblem(playTape(work, emptyTape(work.drive.world), null));
        editLooped();
      },
      earlier: () => {
        const tape = work.drive.$earlier.get();
        if (tape) setProblem(playTape(work, tape, null));
      },
      importFile: () => chooser.current?.click(),
      exportFile: () => setProblem(exportTape(work)),
      history: () => ask('history'),
    };
  }, [work]);
  useEffect(() => {
    work.drive.$earlier.set(driveLeftBehind(work.opening.tuning.id));
    return new DriveKeeper(work.drive, work.opening.tuning.id).start();
  }, [work]);
  useEffect(() => {
    void fetchChosen(work.opening.tuning.id).then((set) => set && work.$targets.set(set.targets));
  }, [work]);
  const laps = useMemo(() => new HandLaps(work.drive, work.opening.ground.id, () => drivenTuning(work)), [work]);
  useEffect(() => laps.start(), [laps]);
  const importFile = useCallback((file: File) => void importTape(work, file).then(setProblem), [work]);
  const takesFile = async (file: File) => {
    const isTape = ['tape', null].includes(await kindOf(file));
    if (isTape) importFile(file);
    return isTape;
  };
  const loop = useStore(work.drive.$loop);
  const kept = useStore(work.$kept);
  // Hands that are driven again by a device, or another tape, are not what was edited.
  useEffect(() => {
    if (!loop || (editing && loop.source !== editing.source)) edit(null);
  }, [loop, editing]);
  const own = useMemo(() => benchCommands(work, tapes), [work, tapes]);
  const tuning = useStore(work.editing.$tuning);
  const before = useStore(work.editing.$beforeTuning);
  const flipped = useStore(work.editing.$flipped);
  useEffect(() => listenToTrials(work), [work]);
  useEffect(() => void openNamed(work, window.location.search).then(setProblem), [work]);
  const resize = (band: 'strip' | 'figures') => (height: number) => setBands((now) => ({ ...now, [band]: height }));

  return (
    <TuningContext value={work}>
      <Shell
        title="Bench"
        work={work}
        takesFile={takesFile}
        own={own}
        looking={looking}
        unchanged={!flipped && differences(before, tuning).length === 0}
        open={(commands, state) => <TuningOnGround commands={commands} state={state} />}
        actions={() => <Flip />}
        notice={<Notices />}
      >
        <div className="grid min-h-0 flex-1 grid-cols-[168px_minmax(0,1fr)_190px]">
          <Now />
          <Yard laps={laps} />
          <Aside laps={laps} loop={(tape) => setProblem(playTape(work, tape, null))} />
        </div>
        <TapeBar actions={tapes} />
        <Rule label="Height of the strip" band="band-strip" height={bands.strip} change={resize('strip')} />
        <div id="band-strip" className="grid shrink-0 grid-cols-[minmax(0,1fr)]" style={{ height: bands.strip }}>
          <Strip />
        </div>
        <Rule label="Height of the figures" band="band-figures" height={bands.figures} change={resize('figures')} />
        <div id="band-figures" className="grid shrink-0 grid-cols-[minmax(0,1fr)]" style={{ height: bands.figures }}>
          {editing ? (
            <TapeEditor
              editing={editing}
              keep={tapes.keep}
              saveOver={kept ? () => void saveTapeRevision(work).then(setProblem) : null}
              leave={() => edit(null)}
            />
          ) : (
            <Figures />
          )}
        </div>
      </Shell>
      <FileChooser chooser={chooser} label="Tape file" choose={([file]) => file && importFile(file)} />
      {asking === 'history' && kept && (
        <RevisionList
          title="History of the tape"
          collection="tapes"
          id={kept.id}
          verb="Loop"
          take={async (number) => {
            const why = await openTape(work, kept.id, number);
            if (!why) ask(null);
            return why;
          }}
          close={() => ask(null)}
        />
      )}
      {asking === 'name' && (
        <Naming title="Keep tape" verb="Keep" name={tapeName(work)} take={(name) => keepTape(work, name)} close={() => ask(null)} />
      )}
      <Trouble why={trouble} close={() => setProblem(null)} />
    </TuningContext>
  );
}
