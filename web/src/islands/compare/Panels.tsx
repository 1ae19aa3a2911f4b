import { useStore } from '@nanostores/react';
import {
  type MetricName,
  metricSpecOf,
  metricSpecs,
  type Parting,
  rawAt,
  significant,
  specOf,
  specs,
  type Target,
  unitOf,
  valueAt,
  valueWords,
} from '@zygopod/core';
import { useComparing } from './context.ts';
import { MarkGlyph } from './MarkGlyph.tsx';
import { markOfSide } from './marks.ts';
import { Panel } from './Panel.tsx';
import type { ComparedSide } from './sides.ts';

/** Under the strip: what differs, what that does, and when it shows. */
export function Panels() {
  return (
    <div className="grid h-[172px] shrink-0 grid-cols-[3fr_4fr_3.2fr] border-t border-ink bg-paper">
      <Differs />
      <Does />
      <Moments />
    </div>
  );
}

const SideHeads = ({ sides }: { sides: readonly ComparedSide[] }) =>
  sides.map(({ short }, index) => (
    <th
      key={`${short} ${index}`}
      scope="col"
      className={`max-w-24 truncate pl-3 text-right font-normal ${markOfSide(index).text}`}
      title={short}
    >
      {short}
    </th>
  ));

/** Every parameter in which a side differs from another, links as links. */
function Differs() {
  const comparing = useComparing();
  const sides = useStore(comparing.$sides);
  const { ground } = useStore(comparing.$ground);
  const words = ({ tuning, parameters }: ComparedSide, path: string) => valueWords(valueAt(parameters, path), rawAt(tuning.file, path));
  const paths = [...specs.keys()].filter((path) => new Set(sides.map((side) => words(side, path))).size > 1);
  const byRate = sides.some(({ ref }) => ref.rate !== null);
  return (
    <Panel title="What differs">
      <table className="w-full text-[12.5px]">
        <thead className="text-xs">
          <tr>
            <td />
            <SideHeads sides={sides} />
            <td />
          </tr>
        </thead>
        <tbody>
          {paths.map((path) => {
            const spec = specOf(path);
            return (
              <tr key={path} className="border-t border-rule/60">
                <th scope="row" className="py-0.5 text-left font-normal" title={path}>
                  {spec.label}
                </th>
                {sides.map((side, index) => (
                  <td key={index} className={`digits pl-3 text-right text-xs ${markOfSide(index).text}`}>
                    {words(side, path)}
                  </td>
                ))}
                <td className="digits w-12 pl-1.5 text-xs text-ink-soft">
                  {spec.kind === 'number' ? unitOf(spec.quantity, ground.unit) : ''}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {sides.length < 2 ? (
        <p className="text-ink-soft">Add a side to compare with.</p>
      ) : (
        paths.length === 0 && <p className="text-ink-soft">No number differs{byRate ? ': one tuning at several rates' : ''}.</p>
      )}
    </Panel>
  );
}

/** Shares of a metric's largest value that count as the same. */
const SAME = 0.005;

/** The side that is better by a metric's own measure; null if none is, or two are alike. */
function bestOf(name: MetricName, values: readonly (number | undefined)[]): number | null | 'same' {
  const known = values.filter((value) => value !== undefined);
  if (known.length < 2) return null;
  const [least, most] = [Math.min(...known), Math.max(...known)];
  if (most - least <= SAME * Math.abs(most)) return 'same';
  const { better, near = 0 } = metricSpecOf(name);
  if (better === null) return null;
  if (better !== 'near') return values.indexOf(better === 'lower' ? least : most);
  const away = (value: number | undefined) => Math.abs((value ?? Infinity) - near);
  return values.reduce<number>((best, value, i) => (away(value) < away(values[best]) ? i : best), 0);
}

/** Metrics of each side's trace, each on its own scale. */
function Does() {
  const comparing = useComparing();
  const sides = useStore(comparing.$sides);
  const { ground } = useStore(comparing.$ground);
  const { metrics } = useStore(comparing.$found);
  const targets = useStore(comparing.$targets);
  const names = (Object.keys(metricSpecs) as MetricName[]).filter((name) => metrics.some((one) => one[name] !== undefined));
  const rows = names
    .map((name) => ({ name, values: metrics.map((one) => one[name]) }))
    .filter(({ values }) => values.some((value) => value !== undefined && value !== 0))
    .map((row) => ({ ...row, best: bestOf(row.name, row.values) }));
  // What differs comes first.
  const ordered = [...rows.filter(({ best }) => best !== 'same'), ...rows.filter(({ best }) => best === 'same')];
  return (
    <Panel title="Effects" head={<span className="text-xs text-ink-soft">better</span>}>
      {metrics.length === 0 && <p className="text-ink-soft">Simulating …</p>}
      <table className="w-full text-[12.5px]">
        <tbody>
          {ordered.map(({ name, values, best }) => {
            const { words, quantity } = metricSpecs[name];
            return (
              <tr key={name} className="border-t border-rule/60 first:border-t-0" data-metric={name}>
                <th scope="row" className="py-0.5 pr-2 text-left font-normal whitespace-nowrap">
                  {words}
                </th>
                <Value value={values[0]} index={0} />
                <td className="w-full px-3">
                  <Scale values={values} target={targets.find(({ metric }) => metric === name) ?? null} />
                </td>
                {values.slice(1).map((value, i) => (
                  <Value key={i} value={value} index={i + 1} />
                ))}
                <td className="digits w-9 pl-1 text-xs text-ink-soft">{unitOf(quantity, ground.unit)}</td>
                <td className="w-10 text-right text-xs text-ink-soft">
                  {best === 'same' ? (
                    'same'
                  ) : best === null ? (
                    <span title="Neither is better in itself">–</span>
                  ) : (
                    <span className="inline-flex" title={`Better: ${sides[best]?.short}`}>
                      <MarkGlyph index={best} size={3.6} />
                    </span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Panel>
  );
}

const Value = ({ value, index }: { value: number | undefined; index: number }) => (
  <td className={`digits pl-1.5 text-right text-xs ${markOfSide(index).text}`}>{value === undefined ? '–' : significant(value)}</td>
);

/** The values of all sides as marks on one line from 0 to a bit more than the largest, over the target band. */
function Scale({ values, target }: { values: readonly (number | undefined)[]; target: Target | null }) {
  const known = values.filter((value) => value !== undefined);
  const most = Math.max(1e-9, ...known.map(Math.abs), target?.max ?? 0, target?.min ?? 0) * 1.18;
  const x = (value: number) => (Math.max(0, value) / most) * 100;
  const [least, largest] = [Math.min(...known), Math.max(...known)];
  return (
    <span aria-hidden="true" className="relative block h-4 border-b-0">
      {target && (
        <span
          className="hatched absolute top-1/2 h-2.5 -translate-y-1/2 border border-route/50"
          style={{ left: `${x(target.min ?? 0)}%`, width: `${x(Math.min(most, target.max ?? most)) - x(target.min ?? 0)}%` }}
        />
      )}
      <span className="absolute top-1/2 right-0 left-0 h-px bg-rule" />
      <span className="absolute top-1/2 -mt-px h-0.5 bg-ink-soft" style={{ left: `${x(least)}%`, width: `${x(largest) - x(least)}%` }} />
      {values.map((value, index) =>
        value === undefined ? null : (
          <span key={index} className="absolute top-1/2 -translate-1/2" style={{ left: `${x(value)}%` }}>
            <MarkGlyph index={index} size={4} />
          </span>
        ),
      )}
    </span>
  );
}

/** When the sides part, in words; each moment can be gone to. */
function Moments() {
  const comparing = useComparing();
  const sides = useStore(comparing.$sides);
  const { moments } = useStore(comparing.$found);
  const first = sides[0];
  const begins = first ? comparing.begins(first) : 0;
  return (
    <Panel title="Where they diverge">
      <ul>
        {moments.map((moment: Parting, i) => (
          <li key={i} className="border-t border-rule/60 first:border-t-0">
            <button
              type="button"
              className="flex min-h-6 w-full items-baseline gap-2 py-0.5 text-left hover:text-now"
              title="Hold at this moment"
              onClick={() => comparing.goTo(moment.time - begins)}
            >
              <span className="digits w-[7ch] shrink-0 text-xs text-now">{(moment.time - begins).toFixed(2)} s</span>
              <span>{moment.words}</span>
            </button>
          </li>
        ))}
      </ul>
      {sides.length > 1 && moments.length === 0 && (
        <p className="text-ink-soft">{comparing.isWhole ? 'The same from beginning to end.' : 'Simulating …'}</p>
      )}
    </Panel>
  );
}
