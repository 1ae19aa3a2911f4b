import { useStore } from '@nanostores/react';
import { differences, metricSpecOf, unitOf } from '@zygopod/core';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { Failed } from '../controls/Failed.tsx';
import { Trouble } from '../controls/Trouble.tsx';
import { Open } from '../frame/Header.tsx';
import { DocumentPicker } from '../frame/Picker.tsx';
import { Shell } from '../frame/Shell.tsx';
import { readingOf } from '../judging/readings.ts';
import { keepUnsaved } from '../judging/targets.ts';
import { openTuningWork, TuningContext } from '../tuning/context.ts';
import type { Command } from '../work/commands.ts';
import { documentActions } from '../work/documentCommands.ts';
import { Band } from './Band.tsx';
import { Chosen } from './Chosen.tsx';
import {
  DrillsContext,
  isPath,
  judgeAsBefore,
  openDrillsWork,
  ordered,
  type Standing,
  standings,
  useDrills,
  useWas,
} from './drillsWork.ts';
import { Judged } from './Judged.tsx';
import { Picture } from './Picture.tsx';

/** The Drills screen: every drill from its own runs, on its own scale, compared with targets; one in full. */
export function Drills({ opening }: { opening: Opening }) {
  const work = useMemo(() => openTuningWork(opening), [opening]);
  const drilled = useMemo(() => openDrillsWork(work), [work]);
  const [trouble, setProblem] = useState<string | null>(null);
  const file = useStore(work.editing.$now);
  const before = useStore(work.editing.$before);
  const preview = useStore(work.editing.$preview);
  const plain = useStore(work.editing.$plainTuning);
  const last = useStore(work.editing.$beforeTuning);
  useEffect(() => drilled.now.ask(preview ?? file, work.drive.world.ground), [drilled, work, file, preview]);
  useEffect(() => drilled.before.ask(before, work.drive.world.ground), [drilled, work, before]);
  useEffect(() => {
    const { id } = work.opening.tuning;
    void judgeAsBefore(drilled).then(setProblem);
    // Bands that were changed are there when one comes back.
    const unlisten = drilled.$judging.listen((judging) => keepUnsaved(id, judging.isChanged ? judging : null));
    return () => {
      unlisten();
      drilled.now.stop();
      drilled.before.stop();
    };
  }, [drilled, work]);
  return (
    <TuningContext value={work}>
      <DrillsContext value={drilled}>
        <Shell
          title="Drills"
          work={work}
          own={[]}
          unchanged={differences(last, plain).length === 0}
          open={(commands, state) => <OpenTuning commands={commands} state={state} />}
        >
          <div className="print-whole grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)_244px]">
            <Judged setProblem={setProblem} />
            <Multiples />
            <Chosen />
          </div>
        </Shell>
        <Trouble why={trouble} close={() => setProblem(null)} />
      </DrillsContext>
    </TuningContext>
  );
}

/** The tuning, and what it is compared with. */
function OpenTuning({ commands, state }: { commands: Command[]; state: ReactNode }) {
  const { work, $against } = useDrills();
  const file = useStore(work.editing.$now);
  const head = useStore(work.saving.$head);
  const against = useStore($against);
  return (
    <Open
      document={<DocumentPicker subject="tuning" name={file.name} opening={work.opening} actions={documentActions(commands)} />}
      revision={`now, against ${against ? `the report of rev ${against.tuning.revision}` : `rev ${head}`}`}
      other={null}
      state={state}
    />
  );
}

/** All drills as small multiples. */
function Multiples() {
  const { now, $judging, $order, $picked } = useDrills();
  const judged = useStore(now.$judged);
  const was = useWas();
  const trouble = useStore(now.$trouble);
  const { set } = useStore($judging);
  const order = useStore($order);
  const picked = useStore($picked);
  const all = ordered(standings(judged?.judgement ?? null, was, set.targets), order);
  const applying = all.filter(({ state }) => state !== 'not');
  return (
    <section
      aria-label="All drills"
      className="min-h-0 overflow-y-auto bg-sheet px-2.5 py-2"
      data-testid="drills"
      data-ticks={judged?.judgement.ticks}
    >
      {trouble && <Failed why={`The drills didn’t finish: ${trouble}`} retry={() => now.retry()} className="px-2" />}
      {!judged && !trouble && <p className="px-2 text-ink-soft">Running the drills …</p>}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(186px,1fr))] gap-x-2">
        {judged &&
          applying.map((standing) => (
            <Multiple key={standing.name} standing={standing} isPicked={standing.name === picked} pick={() => $picked.set(standing.name)} />
          ))}
      </ul>
      {judged && <NotApplying standings={all.filter(({ state }) => state === 'not')} picked={picked} pick={(name) => $picked.set(name)} />}
    </section>
  );
}

/** A reason for which drills don't apply, with how many: `4 need click to go`. */
function reasonWords(reason: string, count: number): string {
  if (!reason.startsWith('needs ')) return `${count} ${count === 1 ? 'doesn’t' : 'don’t'} apply (${reason})`;
  return count === 1 ? `1 ${reason}` : `${count} ${reason.replace('needs', 'need')}`;
}

/** The drills that don't apply to the tuning, a line a reason. */
function NotApplying({ standings, picked, pick }: { standings: readonly Standing[]; picked: string; pick(name: string): void }) {
  const reasons = Map.groupBy(standings, ({ part }) => part?.not ?? 'not run');
  return [...reasons].map(([reason, of]) => (
    <p key={reason} className="mt-2 flex flex-wrap items-baseline gap-x-3 px-2 text-ink-soft">
      <span>{reasonWords(reason, of.length)}:</span>
      {of.map(({ name, title }) => (
        <button
          key={name}
          type="button"
          aria-pressed={name === picked}
          data-drill={name}
          data-state="not"
          className="min-h-6 hover:text-ink aria-pressed:font-semibold aria-pressed:text-now"
          onClick={() => pick(name)}
        >
          {title}
        </button>
      ))}
    </p>
  ));
}

function Multiple({ standing, isPicked, pick }: { standing: Standing; isPicked: boolean; pick(): void }) {
  const { work } = useDrills();
  const { unit } = useStore(work.editing.$now);
  const { title, name, key, part, was, value, before, target, state } = standing;
  const { words, quantity } = metricSpecOf(key);
  return (
    <li className="border-b border-rule py-1">
      <button
        type="button"
        aria-pressed={isPicked}
        className={`block w-full border px-2 py-1.5 text-left ${isPicked ? 'border-now' : 'border-transparent hover:border-rule'}`}
        data-drill={name}
        data-state={state}
        onClick={pick}
      >
        <span className={`flex justify-between font-semibold ${state === 'out' ? 'text-now' : ''}`}>
          {title}
          {state === 'out' && <span className="text-xs font-normal">▲ out</span>}
        </span>
        {part && (
          <>
            <Picture part={part} was={was} isPath={isPath(name)} />
            <span className="flex items-baseline justify-between gap-2">
              <span className="truncate text-xs">{value === null ? (part.absent[key]?.why ?? words) : words}</span>
              <span className={`digits shrink-0 text-[13px] ${state === 'out' ? 'text-now' : ''}`}>
                {value === null ? '–' : readingOf(value, target)} {unitOf(quantity, unit ?? 'px')}
              </span>
            </span>
            <Band metric={key} value={value} before={before} ends={target} isOut={state === 'out' && isOutOf(value, target)} />
          </>
        )}
      </button>
    </li>
  );
}

const isOutOf = (value: number | null, target: Standing['target']) =>
  value !== null && target !== null && (value < (target.min ?? -Infinity) || value > (target.max ?? Infinity));
