import { useStore } from '@nanostores/react';
import { differences, measureSpan, specOf, unitOf, valueWords } from '@zygopod/core';
import { Fragment, useRef } from 'react';
import { usePainter } from '../../chart/frames.ts';
import { write } from '../../controls/inPlace.ts';
import { useTuning } from '../../tuning/context.ts';
import { Partings } from './Partings.tsx';
import { Snags } from './Snags.tsx';

/** Right of the yard: what is wrong, what has changed since the last revision, and what the calipers read. */
export function Aside() {
  return (
    <aside
      aria-label="Snags, changes and calipers"
      className="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-rule bg-paper px-3.5 py-2.5"
    >
      <Snags />
      <Changes />
      <Partings />
      <Calipers />
    </aside>
  );
}

/** Every parameter that differs from the last saved revision, each to be taken back. */
function Changes() {
  const { editing, saving, drive } = useTuning();
  const tuning = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning);
  const head = useStore(saving.$head);
  const flipped = useStore(editing.$flipped);
  const found = differences(before, tuning);
  const following = found.filter(({ isWritten }) => !isWritten);
  return (
    <section aria-label="Changes">
      <h2 className="rubric">Changed since rev {head}</h2>
      {flipped ? (
        <p className="mt-1.5 text-other">Driving revision {head}. Press B to come back.</p>
      ) : found.length === 0 ? (
        <p className="mt-1.5 text-ink-soft">Nothing yet. Drag a circle in a figure below, or a number’s name.</p>
      ) : (
        <ul className="mt-1">
          {found
            .filter(({ isWritten }) => isWritten)
            .map(({ path, a, b, writtenA, writtenB }) => {
              const spec = specOf(path);
              return (
                <li key={path} className="border-b border-rule/60 py-1">
                  <div className="flex items-baseline justify-between gap-2">
                    <span>{spec.label}</span>
                    <button
                      type="button"
                      className="deed text-xs"
                      onClick={() => editing.set(path, writtenA, `take back ${spec.label.toLowerCase()}`)}
                    >
                      Take back
                    </button>
                  </div>
                  <p className="digits text-xs text-ink-soft">
                    {valueWords(a, writtenA)} → <b className="font-medium text-ink">{valueWords(b, writtenB)}</b>
                    {spec.kind === 'number' && ` ${unitOf(spec.quantity, drive.world.ground.unit)}`}
                  </p>
                </li>
              );
            })}
        </ul>
      )}
      {!flipped && following.length > 0 && (
        <p className="mt-1.5 text-xs text-ink-soft">
          {following.map(({ path, a, b }, i) => (
            <span key={path}>
              {i > 0 && ', '}
              {specOf(path).label} follows:{' '}
              <span className="digits">
                {valueWords(a)} → {valueWords(b)}
              </span>
            </span>
          ))}
        </p>
      )}
    </section>
  );
}

/** What the calipers read, and how it is written. */
const readings: readonly (readonly [string, (read: ReturnType<typeof measureSpan>, unit: string) => string])[] = [
  ['Span', ({ seconds }) => `${seconds.toFixed(3)} s`],
  ['Travelled', ({ travelled }, unit) => `${travelled.toFixed(2)} ${unit}`],
  ['Mean speed', ({ meanSpeed }, unit) => `${meanSpeed.toFixed(1)} ${unit}/s`],
  ['Peak speed', ({ peakSpeed }, unit) => `${peakSpeed.toFixed(1)} ${unit}/s`],
  ['Slope', ({ slope }, unit) => `${slope.toFixed(0)} ${unit}/s²`],
  ['Turned', ({ turned }) => `${turned.toFixed(0)}°`],
  ['Contacts', ({ contacts, touched }) => (contacts === 0 ? 'none' : `${contacts}, ${touched.toFixed(2)} s`)],
];

/** What lies between the two edges that were dragged on the strip. */
function Calipers() {
  const { drive, $calipers } = useTuning();
  const span = useStore($calipers);
  const cells = useRef(new Map<string, HTMLElement>());
  const { unit } = drive.world.ground;
  usePainter(() => {
    const read = span && measureSpan(drive.world.trace, span.from, span.to);
    if (!read) return;
    for (const [name, words] of readings) {
      const cell = cells.current.get(name);
      const text = words(read, unit);
      write(cell, text);
    }
  });
  return (
    <section aria-label="Calipers">
      <h2 className="rubric">Calipers</h2>
      {span ? (
        <dl className="mt-1.5 grid grid-cols-[auto_1fr] gap-y-1">
          {readings.map(([name]) => (
            <Fragment key={name}>
              <dt className="text-ink-soft">{name}</dt>
              <dd
                ref={(cell) => void (cell ? cells.current.set(name, cell) : cells.current.delete(name))}
                className="digits text-right"
                data-testid={`calipers-${name.toLowerCase().split(' ')[0]}`}
              />
            </Fragment>
          ))}
        </dl>
      ) : (
        <p className="mt-1.5 text-ink-soft">Drag on the strip to measure.</p>
      )}
    </section>
  );
}
