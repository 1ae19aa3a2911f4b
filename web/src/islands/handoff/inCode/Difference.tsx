import type { LinePair } from '@zygopod/core';

/** Lines around a change that are shown of a long source. */
const AROUND = 12;
/** Lines up to which a source is shown whole. */
const WHOLE = 400;

interface Row extends LinePair {
  number: number;
  isChanged: boolean;
}

/** The rows to show: all of a short source, and of a long one those around changes; null stands for lines left out. */
function rowsOf(lines: readonly LinePair[]): (Row | null)[] {
  const rows = lines.map((line, i): Row => ({ ...line, number: i + 1, isChanged: line.before !== line.after }));
  if (rows.length <= WHOLE) return rows;
  const near = new Set(
    rows.flatMap(({ isChanged }, i) => (isChanged ? Array.from({ length: 2 * AROUND + 1 }, (_, k) => i - AROUND + k) : [])),
  );
  if (near.size === 0) return rows.slice(0, WHOLE);
  return rows.flatMap((row, i) => (near.has(i) ? [row] : near.has(i - 1) || i === 0 ? [null] : []));
}

/** A source beside the same text with the tuning's numbers; changed lines are marked. */
export function Difference({ lines, name }: { lines: readonly LinePair[]; name: string }) {
  return (
    <section
      aria-label={`Changes in ${name}`}
      tabIndex={0}
      className="mt-2 min-h-0 flex-1 overflow-auto border border-rule bg-sheet bg-[linear-gradient(var(--rule),var(--rule))] bg-size-[1px_100%] bg-center bg-no-repeat py-2"
    >
      <table className="digits w-full table-fixed text-[13px] leading-6" data-testid="difference">
        <thead className="sr-only">
          <tr>
            <th scope="col">{name} as it is</th>
            <th scope="col">with the tuning’s numbers</th>
          </tr>
        </thead>
        <tbody>
          {rowsOf(lines).map((row, i) =>
            row ? (
              <tr key={row.number} data-changed={row.isChanged || undefined}>
                <Side text={row.before} other={row.after} sign={row.isChanged ? '−' : ''} tone="bg-now/10" />
                <Side text={row.after} other={row.before} sign={row.isChanged ? '+' : ''} tone="bg-route/14" isRight />
              </tr>
            ) : (
              <tr key={`gap ${i}`} className="text-ink-soft">
                <td className="px-2">…</td>
                <td className="px-2">…</td>
              </tr>
            ),
          )}
        </tbody>
      </table>
    </section>
  );
}

/** Splits a line into what it shares with another one at its begin, what is its own, and what it shares at its end. */
export function partsOf(text: string, other: string): [string, string, string] {
  let from = 0;
  while (from < Math.min(text.length, other.length) && text[from] === other[from]) from++;
  let shared = 0;
  while (shared < Math.min(text.length, other.length) - from && text.at(-1 - shared) === other.at(-1 - shared)) shared++;
  return [text.slice(0, from), text.slice(from, text.length - shared), text.slice(text.length - shared)];
}

function Side({
  text,
  other,
  sign,
  tone,
  isRight = false,
}: {
  text: string | null;
  other: string | null;
  sign: string;
  tone: string;
  isRight?: boolean;
}) {
  const isEdited = sign !== '' && text !== null && other !== null;
  const [before, own, after] = isEdited ? partsOf(text, other) : [text ?? '', '', ''];
  return (
    <td className={`px-2 align-top wrap-anywhere ${sign && text !== null ? tone : ''} ${sign === '' ? 'text-ink-soft' : ''}`}>
      <span className="flex">
        <span aria-hidden="true" className={`w-4 shrink-0 ${isRight ? 'text-route' : 'text-now'}`}>
          {text === null ? '' : sign}
        </span>
        <span className="min-w-0 whitespace-pre-wrap">
          {before}
          {own && <b className="font-semibold">{own}</b>}
          {after}
        </span>
      </span>
    </td>
  );
}
