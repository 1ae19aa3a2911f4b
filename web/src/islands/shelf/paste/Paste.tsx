import { isLink, LONGEST_PASTE, type PastedUnits, type Placed, shortNumber, specOf, specs, unitOf } from '@zygopod/core';
import { useMemo, useState } from 'react';
import { Overlay } from '../../controls/Overlay.tsx';
import { createDocument } from '../../work/deeds.ts';
import { firstPasting, readPasting } from './session.ts';

/** Rows of numbers that are shown. */
const SHOWN = 200;

const paths = [...specs].filter(([, { kind }]) => kind === 'number').map(([path, { label }]) => ({ path, label }));

/** Makes a tuning of numbers that are pasted from code: which parameter each is, in which units, and what stays in the note. */
export function Paste({ close }: { close(): void }) {
  const [pasting, change] = useState(firstPasting);
  const [why, tell] = useState<string | null>(null);
  const read = useMemo(() => readPasting(pasting), [pasting]);
  const { placed, made, units, likely } = read;
  const count = (is: (one: Placed) => boolean) => placed.filter(is).length;
  const [sure, guessed, left] = [
    count((one) => one.path !== null && !one.isGuess),
    count((one) => one.path !== null && one.isGuess),
    count((one) => one.path === null),
  ];
  const make = async () => {
    const answer = await createDocument('tunings', made.file, made.note);
    if ('why' in answer) tell(answer.why);
    else window.location.assign(`/bench/${answer.id}`);
  };
  return (
    <Overlay title="Paste numbers from code" close={close} size="w-[1040px]">
      <div className="grid grid-cols-[380px_minmax(0,1fr)] gap-5">
        <div className="flex flex-col gap-3">
          <textarea
            autoFocus
            aria-label="Code or data with numbers"
            data-work=""
            placeholder={
              'WALK_SPEED = 3.5f;\n"run_speed": 6,\nlocal accel = 40\n…\n\nConstants in any language, or JSON, YAML, INI, TOML, XML, CSV'
            }
            maxLength={LONGEST_PASTE}
            spellCheck={false}
            className="digits h-56 w-full resize-none border border-ink bg-paper p-2 text-[13px]"
            value={pasting.code}
            onChange={(event) => change({ ...pasting, code: event.target.value, chosen: {} })}
          />
          <Units units={units} why={pasting.units ? [] : likely.why} change={(units) => change({ ...pasting, units })} />
          <label className="flex items-baseline gap-2">
            Name
            <input
              aria-label="Name of the tuning"
              maxLength={120}
              className="min-w-0 flex-1 border-b border-ink bg-transparent py-0.5"
              value={pasting.name}
              onChange={(event) => change({ ...pasting, name: event.target.value })}
            />
          </label>
        </div>
        <div className="flex min-h-0 flex-col">
          <p className="text-ink-soft" role="status" data-testid="pasted">
            {placed.length === 0
              ? 'Paste on the left: each number is told here, with what it is taken for.'
              : `${sure} placed, ${guessed} guessed, ${left} left in the note`}
          </p>
          <div className="mt-1 h-[330px] overflow-y-auto border-t border-rule">
            <table className="w-full text-[13px]">
              <tbody>
                {placed.slice(0, SHOWN).map((one, i) => (
                  <Row
                    key={`${i} ${one.found.name}`}
                    one={one}
                    value={one.path ? made.values[one.path] : undefined}
                    refused={one.path ? made.refused.find(({ path }) => path === one.path)?.why : undefined}
                    unit={made.file.unit ?? 'px'}
                    choose={(path) => change({ ...pasting, chosen: { ...pasting.chosen, [i]: path } })}
                  />
                ))}
              </tbody>
            </table>
            {placed.length > SHOWN && <p className="text-ink-soft">and {placed.length - SHOWN} more, taken the same way</p>}
          </div>
        </div>
      </div>
      {why && (
        <p role="alert" className="mt-2 text-now">
          ▲ {why}
        </p>
      )}
      <p className="mt-3 flex items-center justify-end gap-4">
        {guessed > 0 && (
          <span className="mr-auto text-stamina-ink">
            ◆ {guessed === 1 ? 'One is a guess' : `${guessed} are guesses`}: look at them first.
          </span>
        )}
        <button type="button" className="text-ink-soft" onClick={close}>
          Not now
        </button>
        <button
          type="button"
          disabled={Object.keys(made.values).length === 0}
          className="bg-ink px-3 py-1 font-semibold text-sheet disabled:opacity-50"
          onClick={() => void make()}
        >
          Make the tuning
        </button>
      </p>
    </Overlay>
  );
}

function Row({
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
  const raw = found.times ? `${shortNumber(found.times.factor)} × ${found.times.of}` : shortNumber(found.value, 6);
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
          {paths.map(({ path: own, label }) => (
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

/** In which units the numbers stand, and what speaks for that. */
function Units({ units, why, change }: { units: PastedUnits; why: readonly string[]; change(units: PastedUnits): void }) {
  const number = (label: string, value: number, set: (value: number) => void) => (
    <input
      aria-label={label}
      type="number"
      min="0.001"
      step="any"
      className="digits w-16 border-b border-rule bg-transparent text-right"
      value={value}
      onChange={(event) => Number(event.target.value) > 0 && set(Number(event.target.value))}
    />
  );
  return (
    <fieldset className="border-t border-rule pt-2">
      <legend className="rubric">In which units</legend>
      <p className="flex items-baseline gap-2">
        <select
          aria-label="Unit of length"
          className="bg-transparent"
          value={units.length}
          onChange={(event) => change({ ...units, length: event.target.value as PastedUnits['length'] })}
        >
          <option value="px">pixels</option>
          <option value="m">metres</option>
          <option value="tiles">tiles of</option>
        </select>
        {units.length === 'tiles' && <>{number('Pixels of a tile', units.tile, (tile) => change({ ...units, tile }))} px</>}
        <select
          aria-label="Unit of time"
          className="bg-transparent"
          value={units.time}
          onChange={(event) => change({ ...units, time: event.target.value as PastedUnits['time'] })}
        >
          <option value="second">per second</option>
          <option value="frame">per frame at</option>
        </select>
        {units.time === 'frame' && <>{number('Frames a second', units.hz, (hz) => change({ ...units, hz }))} Hz</>}
      </p>
      {why.map((line) => (
        <p key={line} className="text-xs text-stamina-ink">
          ◆ {line}
        </p>
      ))}
    </fieldset>
  );
}
