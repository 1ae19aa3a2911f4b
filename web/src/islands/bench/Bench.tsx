import { useStore } from '@nanostores/react';
import { differences } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { Trouble } from '../controls/Trouble.tsx';
import { Figures } from '../figures/Figures.tsx';
import { Strip } from '../strip/Strip.tsx';
import { openTuningWork, TuningContext } from '../tuning/context.ts';
import { Naming } from '../work/Naming.tsx';
import { Shell } from '../work/Shell.tsx';
import { benchCommands, listenToTrials } from './commands.ts';
import { Flip, Where } from './Header.tsx';
import { Aside } from './panels/Aside.tsx';
import { Notices } from './panels/Notices.tsx';
import { Now } from './panels/Now.tsx';
import { Rule } from './Rule.tsx';
import { TapeBar } from './TapeBar.tsx';
import { keepTape, loopLast, openNamed, openTape, type TapeDeeds, tapeName } from './tapes.ts';
import { Yard } from './Yard.tsx';

/** What can be done to look at things. */
const looking = [
  ['Space and drag', 'Move the yard; the wheel zooms, a double click fits'],
  [', and .', 'On the strip: a tick back, a tick on'],
  ['- [ ] =', 'Hold: try the number last looked at × 0.25, 0.5, 2, 4'],
] as const;

/** The bench: the yard between Now and what has changed, the strip, and the figures. */
export function Bench({ opening }: { opening: Opening }) {
  const work = useMemo(() => openTuningWork(opening), [opening]);
  const [bands, setBands] = useState(() => (window.innerHeight < 760 ? { strip: 126, figures: 248 } : { strip: 138, figures: 266 }));
  const [asking, ask] = useState<'name' | null>(null);
  const [trouble, tell] = useState<string | null>(null);
  const tapes = useMemo<TapeDeeds>(
    () => ({
      loop: () => tell(loopLast(work)),
      drive: () => work.drive.drive(),
      keep: () => ask('name'),
      open: (id) => void openTape(work, id).then(tell),
    }),
    [work],
  );
  const own = useMemo(() => benchCommands(work, tapes), [work, tapes]);
  const tuning = useStore(work.editing.$tuning);
  const before = useStore(work.editing.$beforeTuning);
  const flipped = useStore(work.editing.$flipped);
  useEffect(() => listenToTrials(work), [work]);
  useEffect(() => void openNamed(work, window.location.search).then(tell), [work]);
  const resize = (band: 'strip' | 'figures') => (height: number) => setBands((now) => ({ ...now, [band]: height }));

  return (
    <TuningContext value={work}>
      <Shell
        title="Bench"
        work={work}
        own={own}
        looking={looking}
        unchanged={!flipped && differences(before, tuning).length === 0}
        where={(commands) => <Where commands={commands} />}
        deeds={() => <Flip />}
        notice={<Notices />}
      >
        <div className="grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)_232px]">
          <Now />
          <Yard />
          <Aside />
        </div>
        <TapeBar deeds={tapes} />
        <Rule label="Height of the strip" band="band-strip" height={bands.strip} change={resize('strip')} />
        <div id="band-strip" className="grid shrink-0 grid-cols-[minmax(0,1fr)]" style={{ height: bands.strip }}>
          <Strip />
        </div>
        <Rule label="Height of the figures" band="band-figures" height={bands.figures} change={resize('figures')} />
        <div id="band-figures" className="grid shrink-0 grid-cols-[minmax(0,1fr)]" style={{ height: bands.figures }}>
          <Figures />
        </div>
      </Shell>
      {asking && (
        <Naming title="Keep tape" verb="Keep" name={tapeName(work)} take={(name) => keepTape(work, name)} close={() => ask(null)} />
      )}
      <Trouble why={trouble} close={() => tell(null)} />
    </TuningContext>
  );
}
