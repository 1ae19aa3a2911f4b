import { type GameUnits, type ProposedUnits, shortNumber, type Terms } from '@zygopod/core';
import { Amount } from '../controls/Amount.tsx';

/** `tiles of 16 px, per second`. */
const unitWords = ({ units: { length, tile, time, hz } }: Terms) =>
  `${length === 'tiles' ? `tiles of ${shortNumber(tile)} px` : length === 'm' ? 'metres' : 'pixels'}, ${time === 'frame' ? `per frame at ${shortNumber(hz)} Hz` : 'per second'}`;

/** In which units the numbers stand, and what speaks for that; what is doubtful has to be confirmed. */
export function Units({
  terms,
  likely,
  isChosen,
  doubts,
  needsUnits,
  change,
}: {
  terms: Terms;
  likely: ProposedUnits;
  isChosen: boolean;
  doubts: readonly string[];
  needsUnits: boolean;
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
  return (
    <fieldset className="border-t border-rule pt-2" data-testid="units">
      <legend className="rubric">In which units</legend>
      <p className="flex flex-wrap items-baseline gap-2">
        {choice('length', { px: 'pixels', m: 'metres', tiles: 'tiles of' })}
        {units.length === 'tiles' && <Amount label="Pixels per tile" value={units.tile} unit="px" set={(tile) => set({ tile })} />}
        {choice('time', { second: 'per second', frame: 'per frame at' })}
        {units.time === 'frame' && <Amount label="Frames per second" value={units.hz} unit="Hz" set={(hz) => set({ hz })} />}
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
      {needsUnits && (
        <p className="mt-1 text-stamina-ink">
          ◆ Nothing says for sure which units these are.{' '}
          <button type="button" className="font-semibold underline" onClick={() => change(terms)}>
            Confirm units
          </button>
        </p>
      )}
    </fieldset>
  );
}
