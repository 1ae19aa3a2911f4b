import { useStore } from '@nanostores/react';
import type { RecordingReport } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { Found, mainButton } from '../recording/Found.tsx';
import { RecordingWork } from '../recording/recordingWork.ts';
import { useGame } from './context.ts';
import { setLearned } from './learning.ts';
import { traceCsv } from './traceCsv.ts';

/** Seconds of a drive from which numbers can be learned, and new ones after which they are learned again. */
const LEAST = 3;
const MORE = 4;
/** Milliseconds between two looks at the length of the drive. */
const EVERY = 500;

/** Finds the numbers of the open game in the drive that it has sent, again as more comes, and sets them in the tuning. */
export function LearnNumbers({ close }: { close(): void }) {
  const game = useGame();
  const { unit } = game.ground;
  const open = useStore(game.$game);
  const [learned, setFound] = useState<{ report: RecordingReport; seconds: number } | null>(null);
  const [work, setWork] = useState<{ one: RecordingWork; seconds: number } | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const name = open?.game ?? 'The game';
  useEffect(() => {
    const begin = () => {
      const seconds = game.shown.length;
      const isBusy = work !== null && ['reading', 'running'].includes(work.one.$state.get().is);
      // A new drive begins at 0.
      const isNews = work === null || seconds > work.seconds + MORE || seconds < work.seconds;
      const { drive } = game.shown;
      if (drive && seconds >= LEAST && isNews && !isBusy)
        setWork({ one: new RecordingWork(new File([traceCsv(drive, 'time')], `${name}.csv`), unit), seconds });
    };
    begin();
    const timer = setInterval(begin, EVERY);
    return () => clearInterval(timer);
  }, [game, work, unit, name]);
  useEffect(() => {
    if (!work) return;
    const { one, seconds } = work;
    const unlisten = one.$state.listen((state) => {
      if (state.is === 'done') setFound({ report: state.report, seconds });
      if (state.is === 'done' || state.is === 'failed' || state.is === 'refused') setWhy(state.is === 'done' ? null : state.why);
    });
    void one.read().then(() => one.run());
    return () => {
      unlisten();
      one.stop();
    };
  }, [work]);
  return (
    <Overlay title={`${name}: numbers from its motion`} close={close} size="w-[min(1080px,calc(100vw-32px))]">
      <div data-testid="learned" data-seconds={learned?.seconds.toFixed(1)}>
        <p className="text-ink-soft">
          {learned ? (
            <>
              From <span className="digits">{learned.seconds.toFixed(1)} s</span> of this drive; fitted again as more comes.
            </>
          ) : work ? (
            'Finding speeds, ramps and hands …'
          ) : (
            `Drive the game for ${LEAST} s or more: starts, stops, turns, a sprint.`
          )}
        </p>
        {why && (
          <p role="alert" className="text-now">
            ▲ {why}.
          </p>
        )}
        {learned && (
          <Found
            report={learned.report}
            unit={unit}
            close={close}
            actions={({ set }) => (
              <button
                type="button"
                className={mainButton}
                onClick={() => {
                  setLearned(game, set);
                  close();
                }}
              >
                Set in the tuning
              </button>
            )}
          />
        )}
      </div>
    </Overlay>
  );
}
