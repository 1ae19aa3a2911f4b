import { useStore } from '@nanostores/react';
import { drills as allDrills, differences, metricSpecOf, shortNumber, unitOf } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { Failed } from '../controls/Failed.tsx';
import { Trouble } from '../controls/Trouble.tsx';
import { keepUnsaved } from '../judging/targets.ts';
import { openTuningWork, TuningContext } from '../tuning/context.ts';
import { documentDeeds } from '../work/documentCommands.ts';
import { Picker } from '../work/Picker.tsx';
import { addressOf, placeOf, useScreens } from '../work/place.ts';
import { Shell } from '../work/Shell.tsx';
import { Band } from './Band.tsx';
import { Chosen } from './Chosen.tsx';
import { Judged } from './Judged.tsx';
import { Picture } from './Picture.tsx';
import { DrillsContext, judgeAsBefore, openDrillsWork, ordered, type Standing, standings, useDrills, useWas } from './session.ts';

/** The Drills screen: every drill from its own runs, on its own scale, held against targets; one in full. */
export function Drills({ opening }: { opening: Opening }) {
  const work = useMemo(() => openTuningWork(opening), [opening]);
  const drilled = useMemo(() => openDrillsWork(work), [work]);
  const [trouble, tell] = useState<string | null>(null);
  const file = useStore(work.editing.$now);
  const before = useStore(work.editing.$before);
  const preview = useStore(work.editing.$preview);
  const plain = useStore(work.editing.$plainTuning);
  const last = useStore(work.editing.$beforeTuning);
  useEffect(() => drilled.now.ask(preview ?? file, work.drive.world.ground), [drilled, work, file, preview]);
  useEffect(() => drilled.before.ask(before, null), [drilled, before]);
  useEffect(() => {
    const { id } = work.opening.tuning;
    void judgeAsBefore(drilled).then(tell);
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
          where={(commands) => <Where deeds={documentDeeds(commands)} />}
        >
          <div className="print-whole grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)_244px]">
            <Judged tell={tell} />
            <Multiples />
            <Chosen />
          </div>
        </Shell>
        <Trouble why={trouble} close={() => tell(null)} />
      </DrillsContext>
    </TuningContext>
  );
}

/** The tuning, and what it is held against. */
function Where({ deeds }: { deeds: Parameters<typeof Picker>[0]['deeds'] }) {
  const { work, $against } = useDrills();
  const { here } = useScreens();
  const file = useStore(work.editing.$now);
  const head = useStore(work.saving.$head);
  const against = useStore($against);
  return (
    <>
      <Picker
        label="Tuning"
        name={file.name}
        collection="tunings"
        deeds={deeds ?? []}
        go={(tuning) => window.location.assign(addressOf(here, { ...placeOf(work.opening), tuning }))}
      />{' '}
      <span className="digits text-xs">now, against {against ? `the report of rev ${against.tuning.revision}` : `rev ${head}`}</span>
    </>
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
  return (
    <section
      aria-label="All drills"
      className="min-h-0 overflow-y-auto bg-sheet px-2.5 py-2"
      data-testid="drills"
      data-ticks={judged?.judgement.ticks}
    >
      {trouble && <Failed why={`The drills didn’t finish: ${trouble}`} retry={() => now.retry()} className="px-2" />}
      {!judged && !trouble && <p className="px-2 text-ink-soft">Drilling …</p>}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(186px,1fr))] gap-x-2">
        {judged &&
          all.map((standing) => (
            <Multiple key={standing.name} standing={standing} isPicked={standing.name === picked} pick={() => $picked.set(standing.name)} />
          ))}
      </ul>
    </section>
  );
}

function Multiple({ standing, isPicked, pick }: { standing: Standing; isPicked: boolean; pick(): void }) {
  const { work } = useDrills();
  const { unit } = useStore(work.editing.$now);
  const { title, name, key, part, was, value, before, target, state } = standing;
  const { words, quantity } = metricSpecOf(key);
  const isWay = allDrills.find((drill) => drill.name === name)?.drawing === 'way';
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
        <span
          className={`flex justify-between ${state === 'not' ? 'text-ink-soft' : 'font-semibold'} ${state === 'out' ? 'text-now' : ''}`}
        >
          {title}
          {state === 'out' && <span className="text-xs font-normal">▲ out</span>}
        </span>
        {part && part.not === null ? <Picture part={part} was={was} isWay={isWay} /> : <span className="block h-[72px]" />}
        {part?.not === null ? (
          <>
            <span className="flex items-baseline justify-between gap-2">
              <span className="truncate">{value === null ? (part.absent[key]?.why ?? words) : words}</span>
              <span className={`digits shrink-0 ${state === 'out' ? 'text-now' : ''}`}>
                {value === null ? '–' : shortNumber(value, 3)} {unitOf(quantity, unit ?? 'px')}
              </span>
            </span>
            <Band metric={key} value={value} before={before} ends={target} isOut={state === 'out' && isOutOf(value, target)} />
          </>
        ) : (
          <span className="block h-[35px] text-ink-soft">{part?.not ?? 'does not apply'}</span>
        )}
      </button>
    </li>
  );
}

const isOutOf = (value: number | null, target: Standing['target']) =>
  value !== null && target !== null && (value < (target.min ?? -Infinity) || value > (target.max ?? Infinity));
