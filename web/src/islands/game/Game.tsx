import { useStore } from '@nanostores/react';
import { useEffect, useMemo } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { usePainter } from '../chart/frames.ts';
import { Trouble } from '../controls/Trouble.tsx';
import { Shell } from '../frame/Shell.tsx';
import { openTuningWork, TuningContext } from '../tuning/context.ts';
import { TuningOnGround } from '../tuning/TuningOnGround.tsx';
import type { Command } from '../work/commands.ts';
import { GameContext, useGame } from './context.ts';
import { Differs } from './Differs.tsx';
import { GameBar } from './GameBar.tsx';
import { GameList } from './GameList.tsx';
import { GameStrip } from './GameStrip.tsx';
import { GameYard } from './GameYard.tsx';
import { GameWork } from './gameWork.ts';
import { NoGame } from './NoGame.tsx';
import { Numbers } from './Numbers.tsx';

const looking = [
  ['Space and drag', 'Move the yard; the wheel zooms'],
  [', and .', 'On the strip: a tick back, a tick on'],
] as const;

/** The Game screen: a running game's motion over the model's on the same hands, and its numbers as they are dragged. */
export function Game({ opening }: { opening: Opening }) {
  const work = useMemo(() => openTuningWork(opening), [opening]);
  const game = useMemo(() => new GameWork(work), [work]);
  const games = useStore(game.$games);
  const trouble = useStore(game.$trouble);
  useEffect(() => game.start(), [game]);
  const commands = useMemo(
    (): Command[] => [
      { id: 'newest', label: 'Show the newest tick', key: 'P', run: () => game.shown.$held.set(null) },
      { id: 'lay', label: 'Compare from here', key: 'M', run: () => game.layAgain() },
      { id: 'send', label: 'Send all numbers to the game', key: '', run: () => game.sendAll() },
      { id: 'take', label: 'Set the game’s numbers in the tuning', key: '', run: () => game.takeTheirs() },
    ],
    [game],
  );
  return (
    <TuningContext value={work}>
      <GameContext value={game}>
        <Shell
          title="Game"
          work={work}
          own={commands}
          looking={looking}
          open={(all, state) => <TuningOnGround commands={all} state={state} />}
        >
          <Frames />
          {games === null ? (
            <p className="p-6 text-ink-soft">Looking for games …</p>
          ) : games.length === 0 ? (
            <NoGame />
          ) : (
            <>
              <div className="grid min-h-0 flex-[1.25] grid-cols-[300px_minmax(0,1fr)_290px]">
                <div className="flex min-h-0 flex-col border-r border-ink">
                  <GameList />
                  <Numbers />
                </div>
                <GameYard />
                <Differs />
              </div>
              <GameBar />
              <GameStrip />
            </>
          )}
        </Shell>
        <Trouble why={trouble} close={() => game.$trouble.set(null)} />
      </GameContext>
    </TuningContext>
  );
}

/** Drives the model on with each frame. */
function Frames() {
  const game = useGame();
  usePainter((now) => game.advance(now));
  return null;
}
