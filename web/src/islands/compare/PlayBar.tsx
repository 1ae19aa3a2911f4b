import { useStore } from '@nanostores/react';
import { useRef, useState } from 'react';
import { usePainter } from '../chart/frames.ts';
import { write } from '../controls/inPlace.ts';
import { PaceChoice } from '../drive/PaceChoice.tsx';
import { PlayButton } from '../drive/PlayButton.tsx';
import { comparisonAddress } from '../work/comparison.ts';
import { useComparing } from './context.ts';

/** All sides played together: the moment, the pace, the span; and what leads on from here. */
export function PlayBar() {
  const comparing = useComparing();
  const playing = useStore(comparing.$playing);
  const pace = useStore(comparing.$pace);
  const calipers = useStore(comparing.$calipers);
  const span = useStore(comparing.$span);
  const ground = useStore(comparing.$ground);
  const tape = useStore(comparing.$tape);
  const sides = useStore(comparing.$sides);
  const by = useStore(comparing.laps.$by);
  const now = useRef<HTMLSpanElement>(null);
  const bench = useRef<HTMLAnchorElement>(null);
  const [shared, share] = useState(false);
  usePainter(() => {
    const text = `${comparing.now.toFixed(2)} s`;
    write(now.current, text);
  });
  const benchAddress = () => {
    const at = Number(comparing.now.toFixed(3));
    return `/bench/${sides[0]?.ref.id}?ground=${ground.ref.id}${tape.ref ? `&tape=${tape.ref.id}&at=${at}` : ''}`;
  };
  const shareIt = async () => {
    const address = comparisonAddress(comparing.comparison);
    history.replaceState(null, '', address);
    // Without a secure context there is no clipboard: the address bar has it all the same.
    await navigator.clipboard?.writeText(new URL(address, window.location.href).href).catch(() => undefined);
    share(true);
    setTimeout(() => share(false), 2500);
  };
  return (
    <section
      aria-label="Tape"
      className="flex h-8 shrink-0 items-center gap-4 border-t border-ink bg-paper px-3.5 text-[12.5px] whitespace-nowrap"
    >
      <PlayButton playing={playing} words={['Playing together', 'Held']} toggle={() => comparing.$playing.set(!playing)} />
      <span ref={now} className="digits w-[8ch] text-now" data-testid="moment" />
      <PaceChoice pace={pace} choose={(one) => comparing.$pace.set(one)} />
      {span ? (
        <button type="button" className="action min-h-6" onClick={() => comparing.$span.set(null)}>
          Play the whole {by === 'tape' ? 'tape' : 'lap'}
        </button>
      ) : (
        <button
          type="button"
          className="action min-h-6 disabled:opacity-45"
          disabled={!calipers}
          title={calipers ? 'Plays the measured span over and over' : 'Drag on the strip to measure a span'}
          onClick={() => comparing.loopCalipers()}
        >
          Loop the calipers
        </button>
      )}
      {tape.ref && by === 'tape' && (
        <a
          ref={bench}
          className="action flex min-h-6 items-center"
          href={benchAddress()}
          onPointerDown={() => bench.current?.setAttribute('href', benchAddress())}
          onFocus={() => bench.current?.setAttribute('href', benchAddress())}
        >
          Open this moment on the bench
        </a>
      )}
      <span className="ml-auto flex gap-3">
        {shared && (
          <span role="status" className="text-ink-soft">
            Link copied; it is also in the address bar
          </span>
        )}
        <button
          type="button"
          className="action min-h-6"
          title={`A link to these revisions on this ${by === 'tape' ? 'tape' : 'course'}, at this moment`}
          onClick={() => void shareIt()}
        >
          Share this comparison
        </button>
      </span>
    </section>
  );
}
