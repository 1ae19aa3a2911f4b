import { useEffect, useMemo, useState } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { Painters } from '../chart/frames.ts';
import { Overlay } from '../controls/Overlay.tsx';
import { drives } from '../drive/bindings.ts';
import { BindingList } from '../work/BindingList.tsx';
import { CommandList, KeyList, SaveRevision } from '../work/CommandOverlays.tsx';
import { listenToCommands } from '../work/commands.ts';
import { Rename } from '../work/Rename.tsx';
import { benchCommands, listenToTrials } from './commands.ts';
import { BenchContext } from './context.ts';
import { Figures } from './figures/Figures.tsx';
import { Header } from './header/Header.tsx';
import { Aside } from './panels/Aside.tsx';
import { Banner } from './panels/Banner.tsx';
import { Now } from './panels/Now.tsx';
import { Rule } from './Rule.tsx';
import { openSession } from './session/session.ts';
import { Strip } from './strip/Strip.tsx';
import { Yard } from './Yard.tsx';

/** What can be done to look at things. */
const looking = [
  ['Space and drag', 'Move the yard; the wheel zooms, a double click fits'],
  [', and .', 'On the strip: a tick back, a tick on'],
  ['- [ ] =', 'Hold: try the number last looked at × 0.25, 0.5, 2, 4'],
] as const;

/** The bench: the yard between Now and what has changed, the strip, and the figures. */
export function Bench({ opening }: { opening: Opening }) {
  const session = useMemo(() => openSession(opening), [opening]);
  const [overlay, setOverlay] = useState<'save' | 'list' | 'keys' | 'bindings' | 'rename' | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [bands, setBands] = useState(() => (window.innerHeight < 760 ? { strip: 128, figures: 254 } : { strip: 156, figures: 270 }));
  const commands = useMemo(
    () =>
      benchCommands(session, {
        save: () => setOverlay('save'),
        list: () => setOverlay('list'),
        keys: () => setOverlay('keys'),
        bindings: () => setOverlay('bindings'),
        rename: () => setOverlay('rename'),
        trouble: setTrouble,
      }),
    [session],
  );
  useEffect(() => session.start(), [session]);
  useEffect(() => listenToCommands(commands, drives), [commands]);
  useEffect(() => listenToTrials(session), [session]);
  const close = () => setOverlay(null);
  const resize = (band: 'strip' | 'figures') => (height: number) =>
    setBands((now) => ({ ...now, [band]: Math.min(460, Math.max(80, Math.round(height))) }));

  return (
    <BenchContext value={session}>
      <Painters value={session.painters}>
        <div className="flex h-screen min-h-[620px] min-w-[960px] flex-col">
          <Header commands={commands} opening={opening} />
          <main className="flex min-h-0 flex-1 flex-col">
            <h1 className="sr-only">Bench</h1>
            <div className="relative grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)_232px]">
              <Banner />
              <Now />
              <Yard />
              <Aside />
            </div>
            <Rule label="Height of the strip" height={bands.strip} change={resize('strip')} />
            <div className="grid shrink-0 grid-cols-[minmax(0,1fr)]" style={{ height: bands.strip }}>
              <Strip />
            </div>
            <Rule label="Height of the figures" height={bands.figures} change={resize('figures')} />
            <div className="grid shrink-0 grid-cols-[minmax(0,1fr)]" style={{ height: bands.figures }}>
              <Figures />
            </div>
          </main>
        </div>
        {overlay === 'rename' && (
          <Rename
            what="tuning"
            name={session.editing.$now.get().name}
            rename={(name) => session.editing.replace({ ...session.editing.$now.get(), name }, 'rename')}
            close={close}
          />
        )}
        {trouble && (
          <Overlay title="That could not be done" close={() => setTrouble(null)}>
            <p role="alert" className="text-now">
              ▲ {trouble}
            </p>
          </Overlay>
        )}
        {overlay === 'save' && <SaveRevision save={session.save} close={close} />}
        {overlay === 'list' && <CommandList commands={commands} close={close} />}
        {overlay === 'bindings' && <BindingList commands={commands} close={close} />}
        {overlay === 'keys' && <KeyList commands={commands} more={looking} close={close} />}
      </Painters>
    </BenchContext>
  );
}
