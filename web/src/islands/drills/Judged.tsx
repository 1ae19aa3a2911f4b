import { useStore } from '@nanostores/react';
import { documentText, fileName, keepAsTargets, snagWords } from '@zygopod/core';
import { useState } from 'react';
import { download } from '../controls/download.ts';
import { severityMarks } from '../judging/severityMarks.ts';
import { DocumentFinder } from '../work/DocumentFinder.tsx';
import { createDocument, saveRevision } from '../work/documentActions.ts';
import { Naming } from '../work/Naming.tsx';
import { drawnOf, judgeBy, type Order, ordered, standings, useDrills, useWas } from './drillsWork.ts';
import { exportReport, type Form, forms } from './exportReport.ts';
import { useFound } from './found.ts';
import { KeptReports } from './KeptReports.tsx';
import { useReport } from './useReport.ts';

const orders: readonly (readonly [Order, string])[] = [
  ['out', 'Out first'],
  ['work', 'In order of work'],
  ['changed', 'Most changed'],
];

/** By which targets it is judged, how it stands, and what can be made of that. */
export function Judged({ setProblem }: { setProblem(why: string | null): void }) {
  const drilled = useDrills();
  const { work, now, $judging, $order } = drilled;
  const judged = useStore(now.$judged);
  const was = useWas();
  const report = useReport();
  const judging = useStore($judging);
  const order = useStore($order);
  const [asking, ask] = useState<'find' | 'name' | null>(null);
  const all = standings(judged?.judgement ?? null, was, judging.set.targets);
  const count = (state: string) => all.filter((one) => one.state === state).length;
  const save = async () => {
    const { set, id, head } = judging;
    if (!id) {
      ask('name');
      return;
    }
    const saved = await saveRevision('targets', id, head, set, '');
    if ('why' in saved) setProblem(saved.why);
    else $judging.set({ ...judging, head: saved.number, isChanged: false });
  };
  const exportFile = (form: Form) => {
    const current = report();
    if (!judged || !current) return;
    const { unit = 'px' } = work.editing.$now.get();
    const drawn = drawnOf(ordered(all, order));
    exportReport(form, { report: current, unit, targets: judging.set, judgement: judged.judgement, drawn });
  };
  return (
    <aside aria-label="Judged by" className="flex min-h-0 flex-col gap-3 overflow-y-auto border-r border-rule bg-paper px-3.5 py-2.5">
      <section>
        <h2 className="rubric">Judged by</h2>
        <p className="flex items-baseline gap-3">
          <b className="min-w-0 truncate font-semibold" title={judging.set.note}>
            {judging.set.name}
            {judging.isChanged && ' *'}
          </b>
          <button type="button" className="action min-h-6 shrink-0" onClick={() => ask('find')}>
            change
          </button>
        </p>
        <dl className="mt-1" data-testid="tally">
          {(
            [
              ['in', 'in their band', 'text-ink'],
              ['out', 'out', 'text-now'],
              ['free', 'without a band', 'text-ink-soft'],
            ] as const
          ).map(([state, words, ink]) => (
            <div key={state} className={`flex items-baseline gap-2 ${ink}`}>
              <dd className="digits w-12 text-[30px] leading-9">{count(state)}</dd>
              <dt>{words}</dt>
            </div>
          ))}
        </dl>
      </section>
      <fieldset className="no-print border-t border-rule pt-2">
        <legend className="sr-only">Order of the drills</legend>
        {orders.map(([one, words]) => (
          <label key={one} className="flex min-h-6 items-center gap-2">
            <input type="radio" name="order" checked={order === one} onChange={() => $order.set(one)} />
            {words}
          </label>
        ))}
      </fieldset>
      <Found />
      <KeptReports setProblem={setProblem} />
      <section className="no-print flex flex-col items-start border-t border-rule pt-2">
        <button
          type="button"
          className="action min-h-6"
          title="Sets a band of ±5 % around each current value"
          onClick={() => {
            const set = {
              ...judging.set,
              name: `Like ${work.editing.$now.get().name}`.slice(0, 120),
              targets: keepAsTargets(judged?.judgement.metrics ?? {}),
            };
            $judging.set({ set, id: null, head: 0, isChanged: true });
          }}
        >
          Targets from current values
        </button>
        <span className="text-xs text-ink-soft">each within 5 % of today</span>
        {judging.isChanged && (
          <button type="button" className="action mt-1 min-h-6" onClick={() => void save()}>
            Save these targets
          </button>
        )}
        <button
          type="button"
          className="action mt-2 min-h-6"
          title="The target set as a file: ./zygopod drill --tuning … --targets … --junit …"
          onClick={() => download(fileName('targets', judging.set.name), documentText(judging.set))}
        >
          Check for a build server
        </button>
        <p className="mt-1">
          Report as{' '}
          {forms.map((form) => (
            <button key={form} type="button" className="action mr-1.5 min-h-6" onClick={() => exportFile(form)}>
              {form}
            </button>
          ))}
        </p>
        <button type="button" className="action min-h-6" onClick={() => window.print()}>
          Print this report
        </button>
      </section>
      {judged && (
        <p className="border-t border-rule pt-2 text-xs text-ink-soft">
          <span className="flex justify-between">
            {all.length - count('not')} drills <span className="digits">{(judged.judgement.milliseconds / 1000).toFixed(2)} s</span>
          </span>
          <span className="digits">{judged.judgement.ticks.toLocaleString('en')}</span> ticks, in a worker
        </p>
      )}
      {asking === 'find' && (
        <DocumentFinder
          title="Targets"
          collection="targets"
          actions={[]}
          close={() => ask(null)}
          go={(id) => {
            ask(null);
            void judgeBy(drilled, id).then(setProblem);
          }}
        />
      )}
      {asking === 'name' && (
        <Naming
          title="Save target set"
          verb="Keep"
          name={judging.set.name}
          take={async (name) => {
            const created = await createDocument('targets', { ...judging.set, name });
            return 'why' in created ? created.why : judgeBy(drilled, created.id);
          }}
          close={() => ask(null)}
        />
      )}
    </aside>
  );
}

/** The names of the snags, worst first, each once. */
function Found() {
  const found = useFound();
  return (
    <section aria-label="Snags" className="border-t border-rule pt-2">
      <h2 className="rubric">Snags found</h2>
      {found.length === 0 && <p className="text-ink-soft">None.</p>}
      <ul>
        {found.map(({ id, severity }) => (
          <li key={id} className={`font-semibold ${severityMarks[severity].text}`}>
            <span aria-hidden="true">{severityMarks[severity].mark}</span> {snagWords[id][0]}
          </li>
        ))}
      </ul>
    </section>
  );
}
