import { useStore } from '@nanostores/react';
import { whereTimeGoes } from '@zygopod/core';
import { useState } from 'react';
import { download } from '../../controls/download.ts';
import { MANY_LAPS } from '../../work/comparison.ts';
import { createDocument } from '../../work/documentActions.ts';
import { whenWords } from '../../work/when.ts';
import { useComparing } from '../context.ts';
import { MarkGlyph } from '../MarkGlyph.tsx';
import { markOfSide } from '../marks.ts';
import { lastParts } from '../names.ts';
import { Panel } from '../Panel.tsx';
import type { ComparedSide } from '../sides.ts';
import { type LapRow, lapCsv, splitsOf } from './lapCsv.ts';
import type { ReadLap } from './lapHands.ts';
import { signed } from './lapLanes.ts';

/** Under the strip: the laps with their splits, and where the sides gain and lose time. */
export function LapPanels() {
  const comparing = useComparing();
  // The laps are read again with everything that is driven.
  useStore(comparing.$version);
  const sides = useStore(comparing.$sides);
  const laps = sides.map((side) => ({ side, read: comparing.laps.lapOf(side) }));
  return (
    <div className="grid h-[172px] shrink-0 grid-cols-[minmax(0,7fr)_minmax(0,3fr)] border-t border-ink bg-paper">
      <Laps laps={laps} />
      <WhereTimeGoes laps={laps} />
    </div>
  );
}

interface SideLap {
  side: ComparedSide;
  read: ReadLap | null;
}

/** State of a side that has no finished lap, in words. */
const stateWords = ({ side: { hands }, read }: SideLap): string =>
  hands?.why ? (hands.tape ? `not finished: ${hands.why}` : hands.why) : read && !read.lap.finished ? 'not finished' : 'driving …';

function Laps({ laps }: { laps: readonly SideLap[] }) {
  const comparing = useComparing();
  const { ground, ref } = useStore(comparing.$ground);
  const by = useStore(comparing.laps.$by);
  const { jitter } = useStore(comparing.laps.$pilot);
  const hasSpread = by === 'pilot' && jitter > 0;
  const { path } = comparing.laps;
  const crossings = (ground.course?.gates.length ?? 0) * (ground.course?.laps ?? 1);
  const perLap = comparing.laps.gatesInLap;
  const gateName = (i: number) => (i === crossings - 1 ? 'finish' : `${i === 0 ? 'to ' : ''}gate ${(i % perLap) + 1}`);
  const known = laps.filter(({ read }) => read?.lap.finished);
  const fastest = Math.min(...known.map(({ read }) => read?.lap.time ?? Infinity));
  const [best] = comparing.laps.byHand;
  const [first] = laps;
  const rows = known.map(
    ({ side, read }): LapRow => ({ name: side.name, revision: side.revision, lap: (read as ReadLap).lap, path: path?.length ?? 0 }),
  );
  return (
    <Panel title={by === 'pilot' ? 'Laps by the pilot' : 'Best laps by hand'}>
      <div className="overflow-x-auto">
        <table className="w-full text-[12.5px]" data-testid="laps">
          <thead className="text-xs text-ink-soft">
            <tr>
              <td />
              <Head words="lap" />
              {hasSpread && (
                <Head words="10 % to 90 %" title={`Of ${MANY_LAPS} laps with jitter; the lap shown is the one in the middle`} />
              )}
              {Array.from({ length: crossings }, (_, i) => (
                <Head key={i} words={gateName(i)} />
              ))}
              <Head words="touches" />
              <Head words="corrections" title="Changes of the controls per second" />
              <Head words="path" title="Distance travelled ÷ planned path" />
              <td />
            </tr>
          </thead>
          <tbody>
            {laps.map((one, index) => (
              <Row
                key={one.side.key}
                one={one}
                index={index}
                columns={crossings + (hasSpread ? 5 : 4)}
                hasSpread={hasSpread}
                isFastest={one.read?.lap.time === fastest}
              />
            ))}
            {best && (
              <tr className="border-t border-rule text-ink-soft">
                <th scope="row" className="py-0.5 text-left font-normal whitespace-nowrap">
                  Best by hand
                </th>
                <Figure words={`${best.lap.time.toFixed(2)} s`} />
                <Figure words={(best.lap.gates[0] ?? 0).toFixed(2)} />
                <td colSpan={Math.max(1, crossings + 3)} className="truncate pl-3 text-xs">
                  {best.tuning.file.name}, {best.tuning.isDraft ? `rev ${best.tuning.revision} + changes` : `rev ${best.tuning.revision}`},{' '}
                  {whenWords(best.at)}
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
      <p className="mt-1.5 flex flex-wrap items-baseline gap-x-4">
        {first && (
          <a className="action min-h-6" href={`/drills/${first.side.ref.id}?ground=${ref.id}#lap`} title={`Targets of ${first.side.name}`}>
            Give the lap a band
          </a>
        )}
        {rows.length > 0 && (
          <button
            type="button"
            className="action min-h-6"
            onClick={() => download(`laps of ${ground.name}.csv`, lapCsv(rows, crossings), 'text/csv')}
          >
            Laps as CSV
          </button>
        )}
        {by === 'hand' && first && (
          <a className="action min-h-6" href={`/bench/${first.side.ref.id}?ground=${ref.id}`}>
            Drive a lap on the bench
          </a>
        )}
      </p>
    </Panel>
  );
}

const Head = ({ words, title }: { words: string; title?: string }) => (
  <th scope="col" title={title} className="pl-3 text-right font-normal whitespace-nowrap">
    {words}
  </th>
);

const Figure = ({ words, strong = false }: { words: string; strong?: boolean }) => (
  <td className={`digits pl-3 text-right whitespace-nowrap ${strong ? 'font-semibold' : ''}`}>{words}</td>
);

interface RowProps {
  one: SideLap;
  index: number;
  /** Columns of numbers. */
  columns: number;
  hasSpread: boolean;
  isFastest: boolean;
}

function Row({ one, index, columns, hasSpread, isFastest }: RowProps) {
  const comparing = useComparing();
  const { side, read } = one;
  const { text } = markOfSide(index);
  const path = comparing.laps.path?.length ?? 0;
  return (
    <tr className={`border-t border-rule ${text}`} data-side={side.name}>
      <th scope="row" className="max-w-44 py-0.5 text-left font-semibold">
        <span className="flex items-center gap-1.5">
          <MarkGlyph index={index} size={4} />
          <span className="truncate" title={side.name}>
            {side.short || side.name}
          </span>
        </span>
      </th>
      {read?.lap.finished ? (
        <>
          <Figure words={`${read.lap.time.toFixed(2)} s`} strong={isFastest} />
          {hasSpread && <td className="pl-3 text-right text-xs whitespace-nowrap">{spreadWords(side.hands)}</td>}
          {splitsOf(read.lap).map((split, i) => (
            <Figure key={i} words={split.toFixed(2)} />
          ))}
          <Figure words={String(read.lap.touches)} />
          <Figure words={`${read.lap.corrections.toFixed(1)}/s`} />
          <Figure words={path > 0 ? `${(read.lap.distance / path).toFixed(3)} ×` : '–'} />
        </>
      ) : (
        <td colSpan={columns} className="pl-3">
          {stateWords(one)}
        </td>
      )}
      <td className="pl-3 text-right">
        <KeepTape one={one} />
      </td>
    </tr>
  );
}

/** `8.61 to 9.20`, and how many of the laps were finished, if not all. */
function spreadWords(hands: ComparedSide['hands']): string {
  if (!hands?.tape || !hands.spread) return '–';
  const { p10, p90, finished } = hands.spread;
  return `${p10.toFixed(2)} to ${p90.toFixed(2)}${finished < MANY_LAPS ? `, ${finished} of ${MANY_LAPS}` : ''}`;
}

/** Saves the hands of a lap as a tape. */
function KeepTape({ one: { side, read } }: { one: SideLap }) {
  const comparing = useComparing();
  const [isKept, keep] = useState<object | null>(null);
  const tape = side.hands?.tape;
  if (!tape || !read) return null;
  const save = async () => {
    const { ground } = comparing.$ground.get();
    const name = `Lap of ${ground.name.slice(0, 40)} with ${side.name.slice(0, 50)}, ${read.lap.time.toFixed(2)} s`;
    const made = await createDocument('tapes', { ...tape, name });
    if ('why' in made) comparing.$troubles.set([made.why]);
    else keep(tape);
  };
  return isKept === tape ? (
    <span role="status" className="text-xs whitespace-nowrap text-ink-soft">
      kept
    </span>
  ) : (
    <button
      type="button"
      className="action min-h-6 text-xs whitespace-nowrap"
      aria-label={`Keep the lap of ${side.name} as a tape`}
      title="Saves the hands of this lap as a tape"
      onClick={() => void save()}
    >
      keep as tape
    </button>
  );
}

/** The stretches that cost or gain most against the first side, each with its cause. */
function WhereTimeGoes({ laps }: { laps: readonly SideLap[] }) {
  const comparing = useComparing();
  const { ground } = useStore(comparing.$ground);
  const { path } = comparing.laps;
  const known = laps.flatMap(({ side, read }, index) => (read ? [{ side, read, index }] : []));
  const [first] = known;
  const names = lastParts(known.map(({ side }) => side));
  const found = path
    ? whereTimeGoes(
        known.map(({ side, read }, i) => ({
          name: names[i] as string,
          trace: side.again.world.trace,
          parameters: side.parameters,
          along: read.along,
        })),
        path,
        ground,
      )
    : [];
  return (
    <Panel title="Where the time goes">
      <ul>
        {found.map(({ side, from, to, seconds, place, cause }) => (
          <li key={`${side} ${from}`} className="border-t border-rule/60 first:border-t-0">
            <button
              type="button"
              className="block w-full py-1 text-left hover:text-now"
              title="Play this stretch over and over"
              onClick={() => first && comparing.loop(first.read.along.timeAt(from), first.read.along.timeAt(to))}
            >
              <span className="flex items-baseline gap-1.5">
                <MarkGlyph index={known[side]?.index ?? 0} size={3.6} />
                <span className="min-w-0 flex-1 truncate">{place}</span>
                <span className={`digits text-xs ${seconds > 0 ? 'text-now' : 'text-route'}`}>{signed(seconds)}</span>
              </span>
              <span className="block text-xs text-ink-soft">{cause}</span>
            </button>
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className="text-ink-soft">
          {laps.length < 2
            ? 'Add a side to compare with.'
            : known.length < laps.length
              ? 'There is no lap of each side yet.'
              : 'The laps take the same time on all stretches.'}
        </p>
      )}
    </Panel>
  );
}
