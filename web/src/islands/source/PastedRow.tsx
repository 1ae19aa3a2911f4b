import { isLink, type Placed, shortNumber, specOf, specs, unitOf } from '@zygopod/core';

const paths = [...specs].map(([path, { label, kind }]) => ({ path, label, kind }));
/** Choices for a number, a flag or a word. */
const kindsOf = { number: ['number'], flag: ['flag'], word: ['choice'], list: ['set', 'curve'] } as const;

/** A number of a source, which parameter it is, and the value that it gives. */
export function PastedRow({
  one: { found, path, isGuess, why },
  value,
  refused,
  unit,
  choose,
}: {
  one: Placed;
  value: unknown;
  refused: string | undefined;
  unit: string;
  choose(path: string | null): void;
}) {
  const spec = path ? specOf(path) : null;
  const raw = found.times
    ? `${shortNumber(Number(found.times.factor))} × ${found.times.of}`
    : typeof found.value === 'number'
      ? shortNumber(found.value, 6)
      : String(found.value);
  const link = isLink(value as never) ? (value as { of: string; times?: number }) : null;
  return (
    <tr
      className="border-b border-rule/60 align-baseline"
      data-number={found.name}
      data-path={path ?? ''}
      data-guess={isGuess || undefined}
    >
      <th scope="row" className="max-w-44 truncate py-1 pr-2 text-left font-normal" title={`line ${found.line}: ${found.name}`}>
        {found.name}
      </th>
      <td className="digits pr-2 text-right whitespace-nowrap">{raw}</td>
      <td className="w-56">
        <span aria-hidden="true" className={isGuess ? 'text-stamina-ink' : 'text-route'}>
          {path ? (isGuess ? '◆ ' : '→ ') : '· '}
        </span>
        <select
          aria-label={`What ${found.name} is`}
          title={`${isGuess ? 'A guess: ' : ''}${why}`}
          className={`w-48 bg-transparent [text-align-last:left] ${isGuess ? 'text-stamina-ink' : path ? '' : 'text-ink-soft'}`}
          value={path ?? ''}
          onChange={(event) => choose(event.target.value || null)}
        >
          <option value="">stays in the note</option>
          {paths
            .filter(({ kind }) => (kindsOf[found.kind] as readonly string[]).includes(kind))
            .map(({ path: own, label }) => (
              <option key={own} value={own}>
                {label} ({own})
              </option>
            ))}
        </select>
        <span className={`block text-xs ${refused ? 'text-now' : 'text-ink-soft'}`}>
          {refused ? `▲ ${refused}` : isGuess ? `a guess: ${why}` : why}
        </span>
      </td>
      <td className="digits text-right whitespace-nowrap">
        {link
          ? `${shortNumber(link.times ?? 1)} × ${specOf(link.of).label.toLowerCase()}`
          : typeof value === 'number'
            ? shortNumber(value)
            : ''}
        {!link && typeof value === 'number' && spec?.kind === 'number' && (
          <span className="text-xs text-ink-soft"> {unitOf(spec.quantity, unit)}</span>
        )}
      </td>
    </tr>
  );
}
