import {
  type GameUnits,
  isLink,
  LONGEST_SOURCE,
  type Placed,
  type ProposedUnits,
  shortNumber,
  specOf,
  specs,
  type Terms,
  unitOf,
} from '@zygopod/core';
import { useMemo, useState } from 'react';
import { Overlay } from '../../controls/Overlay.tsx';
import { createDocument } from '../../work/deeds.ts';
import { firstPasting, readPasting } from './session.ts';

/** Rows of numbers that are shown. */
const SHOWN = 200;

const paths = [...specs].map(([path, { label, kind }]) => ({ path, label, kind }));
/** What a number, a flag or a word may be. */
const kindsOf = { number: ['number'], flag: ['flag'], word: ['choice'], list: ['set', 'curve'] } as const;

/** Makes a tuning of numbers that are pasted from code: which parameter each is, in which units, and what stays in the note. */
export function Paste({ close }: { close(): void }) {
  const [pasting, change] = useState(firstPasting);
  const [why, tell] = useState<string | null>(null);
  const read = useMemo(() => readPasting(pasting), [pasting]);
  const { placed, made, terms, likely, doubts, isAsked } = read;
  const count = (is: (one: Placed) => boolean) => placed.filter(is).length;
  const [sure, guessed, left] = [
    count((one) => one.path !== null && !one.isGuess),
    count((one) => one.path !== null && one.isGuess),
    count((one) => one.path === null && one.found.kind === 'number'),
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
            maxLength={LONGEST_SOURCE}
            spellCheck={false}
            className="digits h-56 w-full resize-none border border-ink bg-paper p-2 text-[13px]"
            value={pasting.code}
            onChange={(event) => change({ ...pasting, code: event.target.value, chosen: {}, terms: null })}
          />
          <Units
            terms={terms}
            likely={likely}
            isChosen={pasting.terms !== null}
            doubts={doubts}
            isAsked={isAsked && placed.length > 0}
            change={(changed) => change({ ...pasting, terms: changed })}
          />
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
                {placed
                  .slice(0, SHOWN)
                  .map((one, i) =>
                    one.found.kind === 'word' && !one.path ? null : (
                      <Row
                        key={`${i} ${one.found.name}`}
                        one={one}
                        value={one.path ? made.values[one.path] : undefined}
                        refused={one.path ? made.refused.find(({ path }) => path === one.path)?.why : undefined}
                        unit={made.file.unit ?? 'px'}
                        choose={(path) => change({ ...pasting, chosen: { ...pasting.chosen, [i]: path } })}
                      />
                    ),
                  )}
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
          disabled={Object.keys(made.values).length === 0 || isAsked}
          title={isAsked ? 'Confirm the units first' : undefined}
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

/** `tiles of 16 px, per second`. */
const unitWords = ({ units: { length, tile, time, hz } }: Terms) =>
  `${length === 'tiles' ? `tiles of ${shortNumber(tile)} px` : length === 'm' ? 'metres' : 'pixels'}, ${time === 'frame' ? `per frame at ${shortNumber(hz)} Hz` : 'per second'}`;

/** In which units the numbers stand, and what speaks for that; what is doubtful has to be confirmed. */
function Units({
  terms,
  likely,
  isChosen,
  doubts,
  isAsked,
  change,
}: {
  terms: Terms;
  likely: ProposedUnits;
  isChosen: boolean;
  doubts: readonly string[];
  isAsked: boolean;
  change(terms: Terms): void;
}) {
  const { units } = terms;
  const set = (changes: Partial<GameUnits>) => {
    const next = { ...units, ...changes };
    change({ ...terms, units: next, fileUnit: next.length === 'm' ? 'm' : 'px' });
  };
  const choice = (of: 'length' | 'time' | 'angle', options: Readonly<Record<string, string>>) => (
    <select
      aria-label={`Unit of ${of}`}
      className="bg-transparent"
      value={units[of]}
      onChange={(event) => set({ [of]: event.target.value })}
    >
      {Object.entries(options).map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
  const number = (label: string, value: number, put: (value: number) => void) => (
    <input
      aria-label={label}
      type="number"
      min="0.001"
      step="any"
      className="digits w-16 border-b border-rule bg-transparent text-right"
      value={value}
      onChange={(event) => Number(event.target.value) > 0 && put(Number(event.target.value))}
    />
  );
  return (
    <fieldset className="border-t border-rule pt-2" data-testid="units">
      <legend className="rubric">In which units</legend>
      <p className="flex flex-wrap items-baseline gap-2">
        {choice('length', { px: 'pixels', m: 'metres', tiles: 'tiles of' })}
        {units.length === 'tiles' && <>{number('Pixels of a tile', units.tile, (tile) => set({ tile }))} px</>}
        {choice('time', { second: 'per second', frame: 'per frame at' })}
        {units.time === 'frame' && <>{number('Frames a second', units.hz, (hz) => set({ hz }))} Hz</>}
        {choice('angle', { degree: 'degrees', radian: 'radians' })}
      </p>
      {!isChosen && likely.evidence.length > 0 && <p className="text-xs text-ink-soft">{likely.evidence.join('; ')}</p>}
      {doubts.length > 0 && (
        <p className="mt-1 text-now">
          ▲ Hard to believe: {doubts.join(', ')}.
          {likely.doubts.length === 0 && (
            <>
              {' '}
              <button type="button" className="font-semibold underline" onClick={() => change(likely.terms)}>
                Ordinary in {unitWords(likely.terms)}
              </button>
            </>
          )}
        </p>
      )}
      {isAsked && (
        <p className="mt-1 text-stamina-ink">
          ◆ Nothing says for sure which units these are.{' '}
          <button type="button" className="font-semibold underline" onClick={() => change(terms)}>
            These are right
          </button>
        </p>
      )}
    </fieldset>
  );
}
