import { useStore } from '@nanostores/react';
import type { Tape } from '@zygopod/core';
import { useRef, useState } from 'react';
import { usePainter } from '../chart/frames.ts';
import { download } from '../controls/download.ts';
import { write } from '../controls/inPlace.ts';
import { Menu } from '../controls/Menu.tsx';
import { useRevisionWords } from '../tuning/TuningOnGround.tsx';
import { DocumentFinder } from '../work/DocumentFinder.tsx';
import { createDocument } from '../work/documentActions.ts';
import { Naming } from '../work/Naming.tsx';
import { useGame } from './context.ts';
import { LearnNumbers } from './LearnNumbers.tsx';
import { lapInGame, replayInGame } from './replaying.ts';
import { traceCsv } from './traceCsv.ts';

/** Actions on the open game and its drive. */
export function GameBar() {
  const game = useGame();
  const open = useStore(game.$game);
  const sends = useStore(game.$sends);
  const held = useStore(game.shown.$held);
  const revision = useRevisionWords();
  const [naming, name] = useState<Tape | null>(null);
  const [isFinding, find] = useState(false);
  const [isLearning, learn] = useState(false);
  const apart = useRef<HTMLSpanElement>(null);
  usePainter(() => write(apart.current, game.shown.apartWords(game.ground.unit)));
  if (!open) return null;
  const can = (ability: (typeof open.can)[number]) => open.isLinked && open.can.includes(ability);
  const keep = () => {
    const tape = game.shown.drive?.tape(`${open.game} on ${game.ground.name}`.slice(0, 120)) ?? null;
    if (tape) name(tape);
    else game.$trouble.set('Nothing has been driven yet.');
  };
  return (
    <section
      aria-label="Game actions"
      className="flex h-[28px] shrink-0 items-center gap-4 border-t border-ink bg-paper px-3.5 text-[12.5px] whitespace-nowrap"
    >
      <span role="status" data-testid="game-link" data-linked={open.isLinked}>
        <span aria-hidden="true" className={`mr-1.5 ${open.isLinked ? 'text-route' : 'text-ink-soft'}`}>
          {open.isLinked ? '●' : '○'}
        </span>
        {open.isLinked ? 'Linked' : 'Not linked: reconnects by itself'}
      </span>
      <span ref={apart} className="digits text-xs" data-testid="apart" />
      {held !== null && (
        <button type="button" className="action" title="Back to the newest tick (P)" onClick={() => game.shown.$held.set(null)}>
          Newest
        </button>
      )}
      <button
        type="button"
        className="action"
        title="The model starts again from where the game is now (M)"
        onClick={() => game.layAgain()}
      >
        Compare from here
      </button>
      <span className="ml-auto flex items-center gap-4">
        <label className="flex items-center gap-1.5" title="A changed number is in the game at its next tick">
          <input type="checkbox" checked={sends} disabled={!can('set')} onChange={(event) => game.$sends.set(event.target.checked)} />
          Send while I drag
        </label>
        {can('set') && (
          <button type="button" className="action" title="Sends every number that differs" onClick={() => game.sendAll()}>
            Send {revision}
          </button>
        )}
        {can('restart') && (
          <button type="button" className="action" title="The game starts again" onClick={() => void game.request({ type: 'restart' })}>
            Restart
          </button>
        )}
        <button type="button" className="action" title="Finds the numbers in the motion that the game has sent" onClick={() => learn(true)}>
          Learn the numbers
        </button>
        <button type="button" className="action" title="Keeps the drive as a tape of the project" onClick={keep}>
          Keep this drive
        </button>
        <More find={() => find(true)} />
      </span>
      {naming && (
        <Naming
          title="Keep this drive"
          verb="Keep"
          name={naming.name}
          take={async (given) => {
            const created = await createDocument('tapes', { ...naming, name: given }, `Driven in ${open.game}`);
            return 'why' in created ? created.why : null;
          }}
          close={() => name(null)}
        />
      )}
      {isLearning && <LearnNumbers close={() => learn(false)} />}
      {isFinding && (
        <DocumentFinder
          title="Tape"
          collection="tapes"
          actions={[]}
          go={(id) => {
            find(false);
            void replayInGame(game, id).then((why) => game.$trouble.set(why));
          }}
          close={() => find(false)}
        />
      )}
    </section>
  );
}

/** Actions that are needed now and then. */
function More({ find }: { find(): void }) {
  const game = useGame();
  const open = useStore(game.$game);
  const isOpen = useStore(game.$isOpen);
  if (!open) return null;
  const can = (ability: (typeof open.can)[number]) => open.isLinked && open.can.includes(ability);
  const ask = (type: 'pause' | 'run' | 'step') => ({ off: !can('pause'), run: () => void game.request({ type }) });
  const actions: { label: string; off?: boolean; run(): void }[] = [
    { label: 'Replay a tape in the game', off: !can('tape'), run: find },
    {
      label: 'Pilot a lap in the game',
      off: !can('tape') || !game.ground.course,
      run: () => void lapInGame(game).then((why) => game.$trouble.set(why)),
    },
    { label: 'Pause the game', ...ask('pause') },
    { label: 'Advance it by a tick', ...ask('step') },
    { label: 'Let it run', ...ask('run') },
    {
      label: 'Export the game’s trace (CSV)',
      run: () => game.shown.drive && download(`${open.game}.csv`, traceCsv(game.shown.drive), 'text/csv'),
    },
    { label: isOpen ? 'With the walls of the ground' : 'Without the walls of the ground', run: () => game.openGround(!isOpen) },
  ];
  return (
    <Menu label="More ▾" className="action" side="over" edge="right">
      {(close) => (
        <ul className="grid gap-1">
          {actions.map(({ label, off = false, run }) => (
            <li key={label}>
              <button
                type="button"
                disabled={off}
                className="action min-h-6 disabled:text-ink-soft disabled:no-underline"
                onClick={() => {
                  close();
                  run();
                }}
              >
                {label}
              </button>
            </li>
          ))}
        </ul>
      )}
    </Menu>
  );
}
