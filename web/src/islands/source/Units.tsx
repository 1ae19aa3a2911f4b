import { type GameUnits, type ProposedUnits, shortNumber, type Terms } from '@zygopod/core';

/** `tiles of 16 px, per second`. */
const unitWords = ({ units: { length, tile, time, hz } }: Terms) =>
  `${length === 'tiles' ? `tiles of ${shortNumber(tile)} px` : length === 'm' ? 'metres' : 'pixels'}, ${time === 'frame' ? `per frame at ${shortNumber(hz)} Hz` : 'per second'}`;

/** In which units the numbers stand, and what speaks for that; what is doubtful has to be confirmed. */
export function Units({
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
