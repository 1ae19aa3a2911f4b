import { useStore } from '@nanostores/react';
import { measureSpan } from '@zygopod/core';
import { Fragment, useRef } from 'react';
import { usePainter } from '../../chart/frames.ts';
import { write } from '../../controls/inPlace.ts';
import { useTuning } from '../../tuning/context.ts';

/** Readings of the calipers, and their formats. */
const readings: readonly (readonly [string, (read: ReturnType<typeof measureSpan>, unit: string) => string])[] = [
  ['Span', ({ seconds }) => `${seconds.toFixed(3)} s`],
  ['Travelled', ({ travelled }, unit) => `${travelled.toFixed(2)} ${unit}`],
  ['Mean speed', ({ meanSpeed }, unit) => `${meanSpeed.toFixed(1)} ${unit}/s`],
  ['Peak speed', ({ peakSpeed }, unit) => `${peakSpeed.toFixed(1)} ${unit}/s`],
  ['Slope', ({ slope }, unit) => `${slope.toFixed(0)} ${unit}/s²`],
  ['Turned', ({ turned }) => `${turned.toFixed(0)}°`],
  ['Contacts', ({ contacts, touched }) => (contacts === 0 ? 'none' : `${contacts}, ${touched.toFixed(2)} s`)],
];

/** Measures the span dragged on the strip; empty without one. */
export function Calipers() {
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
  if (!span) return null;
  return (
    <section aria-label="Calipers">
      <h2 className="rubric">Calipers</h2>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-y-px">
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
    </section>
  );
}
