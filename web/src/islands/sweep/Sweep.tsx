import { useStore } from '@nanostores/react';
import { useEffect, useMemo } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { Failed } from '../controls/Failed.tsx';
import { Trouble } from '../controls/Trouble.tsx';
import { Shell } from '../frame/Shell.tsx';
import { openTuningWork, TuningContext } from '../tuning/context.ts';
import { TuningOnGround } from '../tuning/TuningOnGround.tsx';
import type { Command } from '../work/commands.ts';
import { Curves } from './Curves.tsx';
import { KeptContext, SweepContext, useSweep } from './context.ts';
import { Definition } from './Definition.tsx';
import { Effects } from './Effects.tsx';
import { FitPanel } from './fit/FitPanel.tsx';
import { FitWork } from './fit/fitWork.ts';
import { KeptSweeps } from './keptSweeps.ts';
import { Plane } from './Plane.tsx';
import { SweepWork } from './sweepWork.ts';
import { UnderPointer } from './UnderPointer.tsx';

const looking = [
  ['Arrows, on the chart', 'Move by a cell; Shift by ten'],
  ['Enter, on the chart', 'Keep the cell while the pointer is elsewhere'],
  ['Drag, on the chart', 'Zoom into a rectangle'],
] as const;

/** The Sweep screen: a metric over one or two numbers, the motion in each place, and what moves what. */
export function Sweep({ opening }: { opening: Opening }) {
  const work = useMemo(() => openTuningWork(opening), [opening]);
  const sweep = useMemo(() => new SweepWork(work), [work]);
  const trouble = useStore(sweep.$trouble);
  const kept = useMemo(() => new KeptSweeps(sweep), [sweep]);
  useEffect(() => sweep.start(() => kept.openAddressed()), [sweep, kept]);
  const commands = useMemo(
    (): Command[] => [
      { id: 'run', label: 'Run the sweep', key: '', run: () => sweep.run() },
      { id: 'stop', label: 'Stop the sweep', key: '', run: () => sweep.stop() },
      { id: 'out', label: 'Zoom out', key: '', run: () => sweep.goBack() },
    ],
    [sweep],
  );
  return (
    <TuningContext value={work}>
      <SweepContext value={sweep}>
        <KeptContext value={kept}>
          <Shell
            title="Sweep"
            work={work}
            own={commands}
            looking={looking}
            open={(all, state) => <TuningOnGround commands={all} state={state} />}
          >
            <div className="grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)]">
              <Definition />
              <div className="flex min-h-0 flex-col">
                <div className="grid min-h-0 flex-[1.75] grid-cols-[minmax(0,1fr)_minmax(300px,0.56fr)]">
                  <Chart />
                  <Beside />
                </div>
                <Effects />
              </div>
            </div>
          </Shell>
          <Trouble why={trouble} close={() => sweep.$trouble.set(null)} />
        </KeptContext>
      </SweepContext>
    </TuningContext>
  );
}

/** The column beside the chart: the place under the pointer, or the fit. */
function Beside() {
  const sweep = useSweep();
  const isFitOpen = useStore(sweep.$isFitOpen);
  const hasTargets = (useStore(sweep.$targets)?.set.targets.length ?? 0) > 0;
  const fit = useMemo(() => new FitWork(sweep), [sweep]);
  useEffect(() => () => fit.stop(), [fit]);
  const tab = (isFit: boolean, label: string) => (
    <button
      type="button"
      aria-pressed={isFitOpen === isFit}
      className={`-mb-px min-h-7 border-b-2 ${isFitOpen === isFit ? 'border-now font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`}
      onClick={() => sweep.openFit(isFit)}
    >
      {label}
    </button>
  );
  return (
    <div className="flex min-h-0 flex-col gap-2 border-l border-rule bg-paper px-4 pt-1 pb-2.5">
      {hasTargets && (
        <div className="flex gap-5 border-b border-rule">
          {tab(false, 'On the chart')}
          {tab(true, 'Fit to the targets')}
        </div>
      )}
      {isFitOpen && hasTargets ? <FitPanel fit={fit} /> : <UnderPointer />}
    </div>
  );
}

/** A plane, or the curves of one axis. */
function Chart() {
  const sweep = useSweep();
  const swept = useStore(sweep.$swept);
  const progress = useStore(sweep.$progress);
  const faults = useStore(sweep.$faults);
  return (
    <section aria-label="Chart" data-chart className="relative min-h-0 min-w-0 bg-sheet">
      {swept && (swept.sweep.definition.axes.length === 2 ? <Plane swept={swept} /> : <Curves swept={swept} />)}
      {!swept && faults.length === 0 && <p className="p-6 text-ink-soft">Choosing numbers to sweep …</p>}
      {!swept && faults.length > 0 && <p className="p-6">Nothing is swept yet: the axes at the left can’t be used as they are.</p>}
      {progress.state === 'failed' && (
        <Failed why={`The sweep didn’t finish: ${progress.why}`} retry={() => sweep.run()} className="absolute top-2 left-16" />
      )}
    </section>
  );
}
