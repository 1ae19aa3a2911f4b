import { useStore } from '@nanostores/react';
import { drills, judgeTargets, type Metrics, metricKey, metricOfKey, metricSpecOf, shortNumber, type Target, unitOf } from '@zygopod/core';
import { useState } from 'react';
import { readingOf } from '../judging/readings.ts';
import { SnagRow } from '../judging/SnagRow.tsx';
import { findOrCreate } from '../work/documentActions.ts';
import { addressOf, placeOf, useScreens } from '../work/place.ts';
import { Band } from './Band.tsx';
import { PATIENCE, useDrills, useWas, withBand } from './drillsWork.ts';
import { Moves } from './Moves.tsx';
import { Picture } from './Picture.tsx';
import { Revisions } from './Revisions.tsx';

/** One drill in full: what is done, its metrics with their bands, its snags with their mends, and which numbers move it. */
export function Chosen() {
  const { work, now, $judging, $picked } = useDrills();
  const { unit = 'px' } = useStore(work.editing.$now);
  const judged = useStore(now.$judged);
  const was = useWas();
  const judging = useStore($judging);
  const picked = useStore($picked);
  const drill = drills.find(({ name }) => name === picked);
  const part = judged?.judgement.drills.find(({ name }) => name === picked) ?? null;
  const old = was?.drills.find(({ name }) => name === picked) ?? null;
  if (!drill) return null;
  const main = metricKey(drill.main, drill.at);
  const absent = Object.entries(part?.absent ?? {}).filter(([, { applies }]) => applies);
  const keys = [...Object.keys(part?.metrics ?? {}), ...absent.map(([key]) => key)].sort(
    (a, b) => Number(b === main) - Number(a === main),
  ) as (keyof Metrics)[];
  const snags = (judged?.judgement.snags ?? []).filter((snag) => snag.drill === picked);
  const setBand = (target: Target, band: { min?: number; max?: number } | null) =>
    $judging.set({ ...judging, isChanged: true, set: { ...judging.set, targets: withBand(judging.set.targets, target, band) } });
  return (
    <aside aria-label={drill.title} className="flex min-h-0 flex-col gap-2.5 overflow-y-auto border-l border-rule bg-paper px-3.5 py-2.5">
      <header>
        <h2 className="text-[15px] font-semibold text-now">{drill.title}</h2>
        <p className="text-ink-soft">{drill.words}</p>
      </header>
      {part?.not && <p>Not run: {part.not}.</p>}
      {part && part.not === null && <Picture part={part} was={old} isPath={drill.drawing === 'path'} width={214} height={104} />}
      {part?.cutShort && <p className="text-stamina-ink">◆ {part.cutShort}</p>}
      <ul>
        {keys.map((key) => (
          <Metric
            key={key}
            metric={key}
            unit={unit}
            value={part?.metrics[key] ?? null}
            why={part?.absent[key]?.why ?? null}
            before={was?.metrics[key] ?? null}
            targets={judging.set.targets}
            setBand={setBand}
          />
        ))}
      </ul>
      {part?.not === null && <OpenOnBench name={picked} metric={missedOf(part.metrics, judging.set.targets) ?? main} />}
      {part?.not === null && <Revisions drill={picked} metric={main} now={part.metrics[main] ?? null} />}
      {snags.length > 0 && (
        <ul className="border-t border-rule">
          {snags.map((snag) => (
            <SnagRow
              key={snag.id}
              snag={snag}
              actions={{
                preview: (one) => work.editing.preview(one?.mend?.set ?? null),
                mend: ({ mend }) => mend && work.editing.setAll(mend.set, mend.words.toLowerCase()),
              }}
            />
          ))}
        </ul>
      )}
      {part?.not === null && <Moves drill={picked} metric={main} />}
    </aside>
  );
}

function Metric({
  metric,
  unit,
  value,
  why,
  before,
  targets,
  setBand,
}: {
  metric: keyof Metrics;
  unit: string;
  value: number | null;
  /** Why there is no value. */
  why: string | null;
  before: number | null;
  targets: readonly Target[];
  setBand(target: Target, band: { min?: number; max?: number } | null): void;
}) {
  const { words, quantity } = metricSpecOf(metric);
  const target = targets.find((one) => metricKey(one.metric, one.at) === metric) ?? null;
  const isOut = target !== null && (value === null || judgeTargets([target], { [metric]: value })[0]?.ok === false);
  return (
    <li className="border-t border-rule/60 py-1">
      <p className="flex items-baseline justify-between gap-2">
        <span>{words}</span>
        <span className={`digits ${isOut ? 'text-now' : ''}`}>
          {value === null ? '–' : readingOf(value, target)} {unitOf(quantity, unit)}
        </span>
      </p>
      {value === null && why !== null && <p className={isOut ? 'text-now' : 'text-ink-soft'}>Not measured: {why}.</p>}
      <Band
        metric={metric}
        value={value}
        before={before}
        ends={target}
        isOut={isOut}
        change={
          target
            ? (ends) =>
                setBand(target, {
                  ...(ends.min === undefined ? {} : { min: ends.min }),
                  ...(ends.max === undefined ? {} : { max: ends.max }),
                })
            : undefined
        }
      />
      <p className="flex justify-between text-xs text-ink-soft">
        {target ? (
          <>
            <span className="digits">
              {target.min === undefined ? 'at most ' : shortNumber(target.min)}
              {target.min !== undefined && target.max !== undefined && ' to '}
              {target.max === undefined ? ' at least' : shortNumber(target.max)}
            </span>
            <button
              type="button"
              className="hover:underline"
              aria-label={`No band for ${words.toLowerCase()}`}
              onClick={() => setBand(target, null)}
            >
              free
            </button>
          </>
        ) : (
          value !== null && (
            <button
              type="button"
              className="hover:underline"
              title="Sets a band of ±10 % around the current value"
              onClick={() =>
                setBand(
                  metricOfKey(metric),
                  value === 0 ? { max: 0.001 } : { min: Number((value * 0.9).toPrecision(3)), max: Number((value * 1.1).toPrecision(3)) },
                )
              }
            >
              give it a band
            </button>
          )
        )}
      </p>
    </li>
  );
}

/** The first metric that misses its target; null if none does. */
function missedOf(metrics: Metrics, targets: readonly Target[]): keyof Metrics | null {
  const missed = targets.find(
    (target) => metricKey(target.metric, target.at) in metrics && judgeTargets([target], metrics)[0]?.ok === false,
  );
  return missed ? metricKey(missed.metric, missed.at) : null;
}

/** Keeps the drill's first run as a ground and a tape, unless they are kept already, and goes to the bench with both. */
function OpenOnBench({ name, metric }: { name: string; metric: keyof Metrics }) {
  const { work, now } = useDrills();
  const { screens } = useScreens();
  const [why, setProblem] = useState<string | null>(null);
  const open = async () => {
    const own = work.drive.world.ground;
    const [scene] = await now.desk.call((remote) => remote.scenes(work.editing.$now.get(), name, own), PATIENCE).catch(() => []);
    if (!scene) return setProblem('The drill could not be set up again.');
    // A lap is driven on a ground that is kept already.
    const isOwn = name === 'lap';
    const ground = isOwn
      ? { id: work.opening.ground.id }
      : await findOrCreate('grounds', { ...scene.ground, name: `Drill: ${scene.tape.name}` });
    const tape = 'id' in ground ? await findOrCreate('tapes', scene.tape) : ground;
    const bench = screens.find(({ id }) => id === 'bench');
    if ('why' in ground) setProblem(ground.why);
    else if ('why' in tape) setProblem(tape.why);
    else if (bench) window.location.assign(`${addressOf(bench, { ...placeOf(work.opening), ground: ground.id })}&tape=${tape.id}`);
  };
  const sweep = async (query: string) => {
    const screen = screens.find(({ id }) => id === 'sweep');
    if (!screen) return;
    await work.saving.flush();
    const address = addressOf(screen, placeOf(work.opening));
    window.location.assign(`${address}${address.includes('?') ? '&' : '?'}${query}`);
  };
  return (
    <p>
      <button type="button" className="action min-h-6" title="Opens the drill’s ground and loops its tape" onClick={() => void open()}>
        Open on the bench
      </button>
      <button
        type="button"
        className="action ml-4 min-h-6"
        title={`${metricSpecOf(metric).words} over the two numbers that move it most`}
        onClick={() => void sweep(`metric=${encodeURIComponent(metric)}`)}
      >
        Sweep it
      </button>
      <button
        type="button"
        className="action ml-4 min-h-6"
        title="Finds the numbers that meet all targets with the smallest change"
        onClick={() => void sweep(`metric=${encodeURIComponent(metric)}&fit=`)}
      >
        Fit to the targets
      </button>
      {why && (
        <span role="alert" className="ml-2 text-now">
          ▲ {why}
        </span>
      )}
    </p>
  );
}
