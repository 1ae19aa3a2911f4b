import { useStore } from '@nanostores/react';
import { useRef } from 'react';
import { usePainter } from '../../chart/frames.ts';
import { write } from '../../controls/inPlace.ts';
import { useTuning } from '../../tuning/context.ts';
import type { HandLaps } from './handLaps.ts';

/** Seconds with a sign, and without a minus before zero. */
function signed(seconds: number): string {
  const text = Math.abs(seconds).toFixed(2);
  if (Number(text) === 0) return '±0.00';
  return `${seconds < 0 ? '−' : '+'}${text}`;
}

/** The yard's corner: time of the lap that is driven, its last split, and the best lap. */
export function LapClock({ laps }: { laps: HandLaps }) {
  const { drive } = useTuning();
  const loop = useStore(drive.$loop);
  const state = useStore(laps.$state);
  useStore(laps.$laps);
  const time = useRef<HTMLElement>(null);
  const name = useRef<HTMLElement>(null);
  const split = useRef<HTMLElement>(null);
  const behind = useRef<HTMLElement>(null);
  usePainter(() => {
    const { timer } = laps;
    const last = timer.crossed - 1;
    const gap = last < 0 ? null : laps.behindAt(last);
    const gates = timer.lines.length;
    const round = timer.times.length > gates ? `lap ${Math.floor(last / gates) + 1}, ` : '';
    write(time.current, laps.time.toFixed(2));
    write(name.current, last < 0 ? '' : timer.isFinished ? 'Finish' : `${round}gate ${(last % gates) + 1}`);
    write(split.current, last < 0 ? '' : (timer.times[last] as number).toFixed(2));
    write(behind.current, gap === null ? '' : signed(gap));
    behind.current?.classList.toggle('text-now', gap !== null && gap > 0);
  });
  if (loop) return null;
  const { rival } = laps;
  return (
    <section
      aria-label="Lap"
      data-state={state}
      className="pointer-events-none absolute top-10 left-2 border border-rule bg-sheet/90 px-2 py-1 text-[12px]"
    >
      {state === 'none' ? (
        <p className="max-w-44">
          Back to the start with <kbd className="keycap">R</kbd> to drive a lap.
        </p>
      ) : (
        <dl className="grid grid-cols-[auto_auto_3rem] gap-x-3">
          <dt className="font-semibold">Lap</dt>
          <dd ref={time} className="digits text-right font-semibold" data-testid="lap-time" />
          <dd className="text-ink-soft">s</dd>
          <dt ref={name} className="text-ink-soft empty:before:content-['First_gate']" />
          <dd ref={split} className="digits text-right" data-testid="lap-split" />
          <dd ref={behind} className="digits text-right" data-testid="lap-behind" />
          {rival && (
            <>
              <dt className="text-ink-soft">Best</dt>
              <dd className="digits text-right text-ink-soft">{rival.lap.time.toFixed(2)}</dd>
              <dd />
            </>
          )}
        </dl>
      )}
      {state === 'finished' && (
        <p>
          {laps.isKept ? (laps.isChanged ? 'Kept, marked as changed. ' : 'Kept. ') : 'Too long to keep. '}
          <kbd className="keycap">R</kbd> starts another.
        </p>
      )}
    </section>
  );
}
