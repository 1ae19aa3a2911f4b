import { useStore } from '@nanostores/react';
import { shortNumber } from '@zygopod/core';
import { useEffect, useMemo } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { runFrames } from '../chart/frames.ts';
import { Notice } from '../controls/Notice.tsx';
import { otherGround } from '../drive/tapeFit.ts';
import { Frame } from '../frame/Frame.tsx';
import { Open } from '../frame/Header.tsx';
import { Picker } from '../frame/Picker.tsx';
import type { Command } from '../work/commands.ts';
import { comparisonAddress } from '../work/comparison.ts';
import { placeOf } from '../work/place.ts';
import { Blind } from './blind/Blind.tsx';
import type { BlindTrial } from './blind/trial.ts';
import { CompareStrip } from './CompareStrip.tsx';
import { CompareYard } from './CompareYard.tsx';
import { Comparing } from './comparing.ts';
import { ComparingContext, useComparing } from './context.ts';
import { ChooseDriver } from './laps/DrivenBy.tsx';
import { LapPanels } from './laps/LapPanels.tsx';
import { Panels } from './Panels.tsx';
import { PlayBar } from './PlayBar.tsx';
import { SideList } from './SideList.tsx';

const looking = [
  ['Space and drag', 'Move the yard; the wheel zooms, a double click fits all paths'],
  [', and .', 'On the strip: a tick back, a tick on'],
] as const;

/** The Compare screen: two to four sides on the same hands. */
export function Compare({ opening }: { opening: Opening }) {
  const comparing = useMemo(() => new Comparing(opening), [opening]);
  const troubles = useStore(comparing.$troubles);
  const trial = useStore(comparing.trials.$trial);
  const by = useStore(comparing.laps.$by);
  useEffect(() => {
    void comparing.open(window.location.search);
    return runFrames(
      (elapsed, at) => {
        comparing.advance(elapsed);
        for (const paint of comparing.painters) paint(at);
      },
      { isStill: () => comparing.isStill, poll: () => comparing.poll() },
    );
  }, [comparing]);
  const commands = useMemo(() => (trial ? trialCommands(trial, comparing) : compareCommands(comparing)), [comparing, trial]);
  return (
    <ComparingContext value={comparing}>
      <Frame
        title="Compare"
        place={placeOf(opening)}
        painters={comparing.painters}
        commands={commands}
        looking={looking}
        open={<OpenComparison />}
        actions={trial ? null : <ChooseDriver />}
      >
        {troubles.length > 0 && (
          <Notice tone="trouble" role="alert">
            {troubles.join(' ')}{' '}
            <button type="button" className="action" onClick={() => comparing.$troubles.set([])}>
              Understood
            </button>
          </Notice>
        )}
        {trial ? (
          <Blind trial={trial} leave={() => comparing.trials.leave()} />
        ) : (
          <>
            <div className={`grid min-h-0 ${by === 'tape' ? 'flex-[1.45]' : 'flex-[1.75]'} grid-cols-[204px_minmax(0,1fr)]`}>
              <SideList />
              <CompareYard />
            </div>
            <PlayBar />
            <CompareStrip />
            {by === 'tape' ? <Panels /> : <LapPanels />}
          </>
        )}
      </Frame>
    </ComparingContext>
  );
}

/** The tape, and the ground that it is driven on; or the course. */
function OpenComparison() {
  const comparing = useComparing();
  const { tape } = useStore(comparing.$tape);
  const { ground } = useStore(comparing.$ground);
  const by = useStore(comparing.laps.$by);
  useStore(comparing.$version);
  const elsewhere = otherGround(tape, ground);
  if (by !== 'tape') {
    const { path, gatesInLap } = comparing.laps;
    const laps = ground.course && ground.course.laps > 1 ? `, ${ground.course.laps} laps` : '';
    const length = path ? `, ${shortNumber(path.length, 0)} ${ground.unit}` : '';
    return (
      <Open
        document={
          <>
            <span className="mr-2 text-ink-soft">on the course of</span>
            <GroundPicker />
          </>
        }
        revision={`${gatesInLap} gate${gatesInLap === 1 ? '' : 's'}${laps}${length}`}
        other={null}
        state={null}
      />
    );
  }
  return (
    <Open
      document={<Picker label="Tape" name={tape.name} collection="tapes" go={(id) => void comparing.takeTape({ id, revision: null })} />}
      revision={`${(tape.ticks / tape.hz).toFixed(1)} s`}
      other={
        <>
          <span className="mr-2 text-ink-soft">on</span>
          <GroundPicker />
        </>
      }
      state={elsewhere && <span className="text-xs whitespace-nowrap text-ink-soft">{elsewhere}</span>}
    />
  );
}

function GroundPicker() {
  const comparing = useComparing();
  const { ground } = useStore(comparing.$ground);
  const go = (id: string) => window.location.assign(comparisonAddress({ ...comparing.comparison, ground: { id, revision: null } }));
  return <Picker label="Ground" name={ground.name} collection="grounds" go={go} />;
}

const compareCommands = (comparing: Comparing): Command[] => [
  { id: 'play', label: 'Play or hold', key: 'P', run: () => comparing.$playing.set(!comparing.$playing.get()) },
  { id: 'restart', label: 'Back to the beginning', key: 'R', run: () => comparing.goTo(0) },
  { id: 'measured', label: 'Clear calipers', key: 'M', run: () => comparing.$calipers.set(null) },
  { id: 'swap', label: 'Swap the first two sides', key: 'X', run: () => comparing.swap() },
  { id: 'rates', label: 'Same tuning, other rates', key: 'H', run: () => comparing.toggleRates() },
  { id: 'blind', label: 'Blind trial', key: '', run: () => comparing.beginTrial() },
];

const trialCommands = (trial: BlindTrial, comparing: Comparing): Command[] => [
  { id: 'one', label: 'Drive One', key: '1', run: () => trial.choose(0) },
  { id: 'two', label: 'Drive Two', key: '2', run: () => trial.choose(1) },
  { id: 'restart', label: 'Back to the start', key: 'R', run: () => trial.drive.restart() },
  { id: 'leave', label: 'Leave the trial', key: '', run: () => comparing.trials.leave() },
];
