import { useStore } from '@nanostores/react';
import { whenWords } from '../work/when.ts';
import { useGame } from './context.ts';
import { deleteGame, gameTitle, type LinkedGame } from './link.ts';

/** Games that are listed. */
const MOST = 12;

/** How a game is linked, in a line. */
const linkWords = ({ isLinked, hz, latency, seenAt }: LinkedGame): string =>
  isLinked
    ? `${hz} Hz${latency === null ? '' : `, ${latency < 1 ? '< 1' : Math.round(latency)} ms away`}`
    : `left ${whenWords(seenAt, { exact: true })}`;

/** The games that are linked, and those that were. */
export function GameList() {
  const game = useGame();
  const games = useStore(game.$games) ?? [];
  const open = useStore(game.$game);
  const remove = async (one: LinkedGame) => {
    const why = await deleteGame(one.id);
    game.$trouble.set(why);
    if (why === null) game.forget(one.id);
  };
  return (
    <section aria-label="Games" className="shrink-0 border-b border-rule px-3.5 py-2">
      <h2 className="rubric">Games</h2>
      <ul className="mt-1 max-h-[132px] overflow-y-auto">
        {games.slice(0, MOST).map((one) => {
          const isOpen = one.id === open?.id;
          return (
            <li key={one.id} className="group relative">
              <button
                type="button"
                aria-pressed={isOpen}
                className="w-full px-2 py-1 text-left hover:bg-paper aria-pressed:bg-ink aria-pressed:text-sheet"
                onClick={() => game.open(one)}
              >
                <span className="block truncate font-semibold">{gameTitle(one)}</span>
                <span className="digits block text-[11px]">
                  <span aria-hidden="true" className={`mr-1 ${one.isLinked ? (isOpen ? '' : 'text-route') : ''}`}>
                    {one.isLinked ? '●' : '○'}
                  </span>
                  {linkWords(one)}
                </span>
              </button>
              {!one.isLinked && (
                <button
                  type="button"
                  aria-label={`Delete ${gameTitle(one)}`}
                  title="Delete this game with its rows"
                  className={`absolute top-1 right-1 hidden size-6 place-items-center group-focus-within:grid group-hover:grid ${isOpen ? 'text-sheet' : 'text-ink-soft'}`}
                  onClick={() => void remove(one)}
                >
                  ×
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
