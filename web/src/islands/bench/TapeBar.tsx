import { useStore } from '@nanostores/react';
import { type ReactNode, useRef, useState } from 'react';
import { usePainter } from '../chart/frames.ts';
import { write } from '../controls/inPlace.ts';
import type { Loop } from '../drive/loop.ts';
import { PaceChoice } from '../drive/PaceChoice.tsx';
import { PlayButton } from '../drive/PlayButton.tsx';
import { otherGround } from '../drive/tapeFit.ts';
import { LaneMenu } from '../strip/LaneMenu.tsx';
import { useTuning } from '../tuning/context.ts';
import { DocumentFinder } from '../work/DocumentFinder.tsx';
import { TapePicture } from './TapePicture.tsx';
import type { TapeActions } from './tapes.ts';

/** Shows whether the trace is a drive or a playing tape, with the actions for each. */
export function TapeBar({ actions }: { actions: TapeActions }) {
  const work = useTuning();
  const loop = useStore(work.drive.$loop);
  const kept = useStore(work.$kept);
  const [finding, find] = useState(false);
  return (
    <section
      aria-label="Tape"
      className="flex h-[26px] shrink-0 items-center gap-3 border-t border-ink bg-paper px-3.5 text-[12.5px] whitespace-nowrap"
    >
      {loop ? <Playing loop={loop} /> : <Driving />}
      <span className="ml-auto flex items-center gap-4">
        {loop && <LoopsSpan actions={actions} />}
        {loop ? <Bar label="Drive" title="Back to where the hands left off (L)" run={actions.drive} /> : <Loops actions={actions} />}
        {loop && <Bar label="Edit" title="Edit the hands as lanes: move, stretch, add, delete (E)" run={actions.edit} />}
        <Bar label="Keep tape" title="Keep the loop, the calipers’ span, or the whole recording" run={actions.keep} />
        <Bar label="Tapes" title="Open a kept tape" run={() => find(true)} />
        <LaneMenu />
        <Cost loop={loop} />
      </span>
      {finding && (
        <DocumentFinder
          title="Tape"
          collection="tapes"
          picture={(id, remark) => <TapePicture id={id} work={work} remark={remark} />}
          actions={[
            { id: 'write', label: 'Write one by hand', key: '', run: actions.write },
            { id: 'bring', label: 'Import a tape file', key: '', run: actions.importFile },
            { id: 'out', label: loop ? 'Export this tape' : 'Export the drive', key: '', run: actions.exportFile },
            ...(loop && kept ? [{ id: 'history', label: 'History of this one', key: '', run: actions.history }] : []),
          ]}
          close={() => find(false)}
          go={(id) => {
            find(false);
            actions.open(id);
          }}
        />
      )}
    </section>
  );
}

const Bar = ({ label, title, run }: { label: string; title: string; run(): void }) => (
  <button type="button" className="action min-h-6" title={title} onClick={run}>
    {label}
  </button>
);

function Loops({ actions }: { actions: TapeActions }) {
  const { $calipers, drive, opening } = useTuning();
  const span = useStore($calipers);
  const [isFresh, setFresh] = useState(true);
  usePainter(() => {
    if (isFresh !== drive.recorder.isIdle) setFresh(drive.recorder.isIdle);
  });
  const { tape } = opening;
  const earlier = useStore(drive.$earlier);
  if (isFresh && earlier) return <Bar label="Loop the drive before" title="Loops the drive up to the restart" run={actions.earlier} />;
  // Before anything is driven there is a tape that is made for this ground.
  if (isFresh && !span && tape)
    return (
      <Bar
        label={`Loop “${tape.name}”`}
        title="Loops it; a changed number applies to the whole loop at once"
        run={() => actions.open(tape.id)}
      />
    );
  return (
    <Bar
      label={span ? 'Loop the calipers’ span' : 'Loop the last 8 s'}
      title="Loops it; a changed number applies to the whole loop at once (L)"
      run={actions.loop}
    />
  );
}

/** While a tape plays: the calipers' span of it alone. */
function LoopsSpan({ actions }: { actions: TapeActions }) {
  const span = useStore(useTuning().$calipers);
  return span && <Bar label="Loop the calipers’ span" title="Loops only that span of the tape" run={actions.loop} />;
}

function Driving() {
  const running = useStore(useTuning().drive.$running);
  return (
    <>
      <span aria-hidden="true" className={running ? 'text-now' : 'text-ink-soft'}>
        ●
      </span>
      <span className="font-semibold">{running ? 'Driving' : 'At rest'}</span>
      <span className="text-ink-soft">recorded all the while</span>
    </>
  );
}

function Playing({ loop }: { loop: Loop }) {
  const { $kept, drive } = useTuning();
  const kept = useStore($kept);
  const elsewhere = otherGround(loop.tape, drive.world.ground);
  const playing = useStore(loop.$playing);
  const pace = useStore(loop.$pace);
  const now = useRef<HTMLSpanElement>(null);
  usePainter(() => {
    const text = `${loop.now.toFixed(2)} s`;
    write(now.current, text);
  });
  const step = (ticks: number) => loop.goTo(loop.row + ticks);
  const [from, to] = [loop.begins, loop.begins + loop.length];
  return (
    <>
      <PlayButton playing={playing} words={['Looping', 'Held']} toggle={() => loop.$playing.set(!playing)} />
      <span className="max-w-56 truncate">{kept?.name ?? loop.tape.name}</span>
      {elsewhere && (
        <span className="max-w-48 truncate text-ink-soft" title={`This tape was ${elsewhere}`} data-testid="tape-elsewhere">
          {elsewhere}
        </span>
      )}
      <span className="digits text-now" data-testid="loop-span">
        {from.toFixed(1)} to {to.toFixed(1)} s
      </span>
      <span ref={now} className="digits w-[8ch] text-right text-xs text-ink-soft" data-testid="loop-now" />
      <PaceChoice pace={pace} choose={(one) => loop.$pace.set(one)} />
      <Tick label="Tick back" run={() => step(-1)}>
        ◂
      </Tick>
      <Tick label="Tick on" run={() => step(1)}>
        ▸
      </Tick>
      <span className="truncate text-ink-soft max-[1140px]:hidden">Touch a key to take over</span>
    </>
  );
}

const Tick = ({ label, run, children }: { label: string; run(): void; children: ReactNode }) => (
  <button type="button" aria-label={label} title={label} className="min-h-6 min-w-6 border border-rule bg-sheet" onClick={run}>
    {children}
  </button>
);

/** Cost of the last replay. */
function Cost({ loop }: { loop: Loop | null }) {
  return (
    <span className="digits w-[20ch] text-right text-xs text-ink-soft" data-testid="loop-cost">
      {loop && <CostOf loop={loop} />}
    </span>
  );
}

function CostOf({ loop }: { loop: Loop }) {
  const { ticks, milliseconds } = useStore(loop.$cost);
  return (
    <>
      {ticks} ticks in {milliseconds < 10 ? milliseconds.toFixed(1) : milliseconds.toFixed(0)} ms
    </>
  );
}
