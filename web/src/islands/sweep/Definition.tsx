import { useStore } from '@nanostores/react';
import { drills, type MetricKey, metricKey, metricSpecOf, traceMetricNames } from '@zygopod/core';
import { useId } from 'react';
import { AxisFields } from './AxisFields.tsx';
import { MOST_METRICS, type Shown } from './choice.ts';
import { useSweep } from './context.ts';
import { exports } from './exportSweep.ts';
import { KeptList } from './KeptList.tsx';
import { Running } from './Running.tsx';
import { TapeChoice } from './TapeChoice.tsx';
import { TargetChoice } from './TargetChoice.tsx';
import { shownWords } from './words.ts';

/** The definition of the sweep, and the choice of what is shown. */
export function Definition() {
  const sweep = useSweep();
  const faults = useStore(sweep.$faults);
  const swept = useStore(sweep.$swept);
  const layers = useStore(sweep.$layers);
  const canGoBack = useStore(sweep.$canGoBack);
  const id = useId();
  return (
    <section aria-label="Sweep" className="flex min-h-0 flex-col gap-2.5 overflow-y-auto border-r border-rule bg-paper px-3.5 py-2.5">
      <AxisFields index={0} />
      <AxisFields index={1} />
      <ShownList />
      <TapeChoice />
      <TargetChoice />
      <Running />
      {faults.length > 0 && (
        <ul role="alert" className="text-now">
          {faults.map((fault) => (
            <li key={fault}>▲ {fault}</li>
          ))}
        </ul>
      )}
      {canGoBack && (
        <p className="border-t border-rule pt-2">
          <button type="button" className="action min-h-6" onClick={() => sweep.goBack()}>
            Zoom out
          </button>
        </p>
      )}
      <div role="group" aria-labelledby={id} className="border-t border-rule pt-2">
        <h2 id={id} className="rubric mb-0.5">
          Marked
        </h2>
        {(['others', 'revisions'] as const).map((layer) => (
          <label key={layer} className="flex min-h-6 items-center gap-2">
            <input
              type="checkbox"
              checked={layers[layer]}
              onChange={(event) => sweep.$layers.set({ ...layers, [layer]: event.target.checked })}
            />
            {layer === 'others' ? 'Other tunings' : 'Revisions of this one'}
          </label>
        ))}
      </div>
      <KeptList />
      {swept && (
        <p className="flex flex-wrap gap-x-3 border-t border-rule pt-2">
          {exports.map(({ label, run }) => (
            <button key={label} type="button" className="action min-h-6" onClick={() => void run(sweep)}>
              {label}
            </button>
          ))}
        </p>
      )}
    </section>
  );
}

/** The metrics of the sweep, one of which is shown, and a list to add others from. */
function ShownList() {
  const sweep = useSweep();
  const choice = useStore(sweep.$choice);
  const targets = useStore(sweep.$targets)?.set.targets ?? [];
  const { parameters } = useStore(sweep.work.editing.$plainTuning);
  const banded = targets.map(({ metric, at }) => metricKey(metric, at));
  const swept = useStore(sweep.$swept);
  const tape = useStore(sweep.$tape);
  const taped = tape ? traceMetricNames.map((name): MetricKey => `${name}@1`) : [];
  const available = [...drills.filter((drill) => drill.unless(parameters) === null).flatMap(({ gives }) => gives), ...taped].filter(
    (key, i, all) => all.indexOf(key) === i && !choice.metrics.includes(key),
  );
  const show = (shown: Shown) => sweep.choose({ shown });
  const add = (key: MetricKey) => {
    sweep.choose({ metrics: [...choice.metrics, key], shown: key });
    // One that was measured for its target is there already.
    if (!swept?.sweep.values.has(key)) sweep.run();
  };
  return (
    <fieldset>
      <legend className="rubric mb-0.5">Shown</legend>
      {choice.metrics.map((key) => (
        <div key={key} className="flex min-h-6 items-center gap-2">
          <label className="flex min-w-0 flex-1 items-center gap-2">
            <input type="radio" name="shown" checked={choice.shown === key} onChange={() => show(key)} />
            <span className="truncate">{metricSpecOf(key).words}</span>
          </label>
          {choice.metrics.length > 1 && (
            <button
              type="button"
              aria-label={`Leave out ${metricSpecOf(key).words.toLowerCase()}`}
              className="px-1 text-ink-soft hover:text-ink"
              onClick={() => {
                const metrics = choice.metrics.filter((one) => one !== key);
                sweep.choose({ metrics, shown: choice.shown === key ? (metrics[0] ?? 'met') : choice.shown });
              }}
            >
              ×
            </button>
          )}
        </div>
      ))}
      {targets.length > 0 && (
        <label className="flex min-h-6 items-center gap-2">
          <input type="radio" name="shown" checked={choice.shown === 'met'} onChange={() => show('met')} />
          {shownWords('met')}
        </label>
      )}
      {choice.metrics.length < MOST_METRICS && (
        <select
          aria-label="Add a metric"
          className="mt-0.5 min-h-6 w-full text-ink-soft [text-align-last:left]"
          value=""
          onChange={(event) => add(event.target.value as MetricKey)}
        >
          <option value="">add a metric …</option>
          {available.map((key) => (
            <option key={key} value={key}>
              {metricSpecOf(key).words}
              {banded.includes(key) ? ' (has a target)' : ''}
            </option>
          ))}
        </select>
      )}
    </fieldset>
  );
}
