import { useStore } from '@nanostores/react';
import { shortNumber, specs } from '@zygopod/core';
import { useState } from 'react';
import { ParameterField } from '../fields/ParameterField.tsx';
import { useTuning } from '../tuning/context.ts';
import { useGame } from './context.ts';
import type { GameValue } from './link.ts';
import type { Matched, Unmatched } from './matching.ts';

const words = (value: GameValue) => (typeof value === 'number' ? shortNumber(value) : String(value));

/** The game's numbers, each with the parameter that it is; what differs is in magenta, what was refused says why. */
export function Numbers() {
  const game = useGame();
  const { matched, others } = useStore(game.$matched);
  const open = useStore(game.$game);
  useStore(useTuning().editing.$now);
  const [isMatching, match] = useState(false);
  const differing = matched.filter((one) => !game.isSame(one));
  return (
    <section aria-label="Its numbers" className="flex min-h-0 flex-1 flex-col px-3.5 pt-2">
      <h2 className="rubric flex items-baseline justify-between">
        Its numbers
        {others.length + matched.length > 0 && (
          <button type="button" aria-pressed={isMatching} className="action text-xs font-normal" onClick={() => match(!isMatching)}>
            {isMatching ? 'Done' : 'Match by hand'}
          </button>
        )}
      </h2>
      <div className="min-h-0 flex-1 overflow-y-auto pb-1" tabIndex={-1}>
        {matched.length + others.length === 0 && open && <p className="mt-1 text-ink-soft">The game has named no numbers.</p>}
        <ul>
          {matched.map((one) => (
            <Row key={one.name} one={one} isMatching={isMatching} />
          ))}
        </ul>
        <ul>
          {others.map((one) => (
            <li key={one.name} className="flex min-h-6 items-baseline gap-2 border-t border-rule/60 text-ink-soft">
              <span className="digits w-[92px] shrink-0 truncate text-xs" title={one.name}>
                {one.name}
              </span>
              {isMatching ? <Choice one={one} path={null} /> : <span className="flex-1 text-xs">none of ours</span>}
              <span className="digits w-[7ch] text-right">{words(one.value)}</span>
              <span className="w-[5.5ch] shrink-0" />
            </li>
          ))}
        </ul>
      </div>
      {differing.length > 0 && (
        <p className="flex shrink-0 gap-x-4 border-t border-rule py-1.5 text-xs">
          <button type="button" className="action" title="Sets the game’s numbers in this tuning" onClick={() => game.takeTheirs()}>
            Set in the tuning
          </button>
          {game.canSend && (
            <button type="button" className="action" title="Sends this tuning’s numbers to the game" onClick={() => game.sendAll()}>
              Set in the game
            </button>
          )}
        </p>
      )}
    </section>
  );
}

function Row({ one, isMatching }: { one: Matched; isMatching: boolean }) {
  const game = useGame();
  const refused = useStore(game.sending.$refused)[one.name];
  const isSame = game.isSame(one);
  return (
    <li data-game-number={one.name} data-same={isSame}>
      <div className="grid grid-cols-[92px_minmax(0,1fr)] items-baseline gap-2 [&_.number-link]:hidden">
        <span className="digits truncate border-t border-rule/60 pt-[3px] text-xs" title={one.name}>
          {one.name}
        </span>
        {isMatching ? <Choice one={one} path={one.path} /> : <ParameterField path={one.path} />}
      </div>
      {!isSame && (
        <p className="text-right text-xs text-now">
          <span aria-hidden="true" className="mr-1">
            ▲
          </span>
          <span className="digits">{words(one.value)}</span> in the game
        </p>
      )}
      {refused && (
        <p role="alert" className="text-right text-xs text-now">
          ▲ {refused}
        </p>
      )}
    </li>
  );
}

/** Chooses the parameter that a number of the game is. */
function Choice({ one, path }: { one: Matched | Unmatched; path: string | null }) {
  const game = useGame();
  const kind = typeof one.value === 'number' ? 'number' : typeof one.value === 'boolean' ? 'flag' : 'choice';
  return (
    <select
      aria-label={`Parameter for ${one.name}`}
      className="min-h-6 min-w-0 flex-1 border-b border-ink text-xs"
      value={path ?? ''}
      onChange={(event) => void game.choose(one.name, event.target.value === '' ? null : event.target.value)}
    >
      <option value="">none of ours</option>
      {[...specs]
        .filter(([, spec]) => spec.kind === kind)
        .map(([name, spec]) => (
          <option key={name} value={name}>
            {spec.label} ({name.split('.')[0]})
          </option>
        ))}
    </select>
  );
}
