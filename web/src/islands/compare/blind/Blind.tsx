import { useStore } from '@nanostores/react';
import { useEffect, useState } from 'react';
import { Notice } from '../../controls/Notice.tsx';
import { remember, remembered } from '../../controls/remember.ts';
import { whenWords } from '../../work/when.ts';
import { useComparing } from '../context.ts';
import { intervalWords, type KeptRound, tallyOf, tallyWords } from './rounds.ts';
import { TrialYard } from './TrialYard.tsx';
import type { BlindTrial } from './trial.ts';

const KEPT_NAME = 'zygopod-trial-name';

/** Two tunings without their names: drive each as often as wanted, then say which feels better. */
export function Blind({ trial, leave }: { trial: BlindTrial; leave(): void }) {
  const driven = useStore(trial.$driven);
  const round = useStore(trial.$round);
  const answered = useStore(trial.$answered);
  const why = useStore(trial.$why);
  const [who, setWho] = useState(() => remembered(KEPT_NAME) ?? '');
  const [word, setWord] = useState('');
  const [revealEach, setRevealEach] = useState(false);
  const [ended, end] = useState(false);
  useEffect(() => trial.start(), [trial]);
  const answer = (which: 0 | 1 | null) => {
    remember(KEPT_NAME, who);
    // What was typed stays until it is kept.
    void trial.answer(which, who, word).then((isKept) => isKept && setWord(''));
  };
  const choice = (which: 0 | 1, name: string) => (
    <button
      type="button"
      aria-pressed={driven === which}
      title={`Drive ${name} from the start (${which + 1})`}
      className="min-h-8 min-w-20 border border-ink px-3 font-semibold aria-pressed:bg-ink aria-pressed:text-sheet"
      onClick={(event) => {
        trial.choose(which);
        event.currentTarget.blur();
      }}
    >
      {name}
    </button>
  );
  const vote = 'min-h-7 border border-now px-3 font-semibold text-now hover:bg-now hover:text-sheet';
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px]">
      {why && (
        <Notice tone="trouble" role="alert">
          {why}
        </Notice>
      )}
      <div className="flex min-h-0 flex-col">
        <div className="flex h-11 shrink-0 items-center gap-3 border-b border-rule px-3.5">
          <span className="font-semibold">Round {round}</span>
          <span className="flex">
            {choice(0, 'One')}
            {choice(1, 'Two')}
          </span>
          <span className="text-ink-soft">
            Drive each as often as you like; <kbd className="keycap">1</kbd> <kbd className="keycap">2</kbd> change over,{' '}
            <kbd className="keycap">R</kbd> starts again.
          </span>
        </div>
        <div className="grid min-h-0 flex-1">
          <TrialYard trial={trial} />
        </div>
      </div>
      <aside aria-label="Blind trial" className="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-rule bg-paper px-4 py-3">
        <h2 className="rubric">Which feels better?</h2>
        {answered ? (
          <>
            <p role="status">
              Kept.{' '}
              {revealEach ? (
                <>
                  One was <b>{answered.first === 'a' ? trial.a.short : trial.b.short}</b>, Two was{' '}
                  <b>{answered.first === 'a' ? trial.b.short : trial.a.short}</b>.
                </>
              ) : (
                'The tunings are revealed at the end.'
              )}
            </p>
            <button type="button" className={vote} onClick={() => trial.next()}>
              Next round
            </button>
          </>
        ) : (
          <>
            <div className="flex gap-2">
              <button type="button" className={vote} onClick={() => answer(0)}>
                One
              </button>
              <button type="button" className={vote} onClick={() => answer(null)}>
                No difference
              </button>
              <button type="button" className={vote} onClick={() => answer(1)}>
                Two
              </button>
            </div>
            <Line label="Reason (optional)" value={word} most={400} change={setWord} isWork />
          </>
        )}
        <Line label="Your name" value={who} most={80} change={setWho} />
        <label className="flex min-h-6 items-center gap-2">
          <input type="checkbox" checked={revealEach} onChange={(event) => setRevealEach(event.target.checked)} />
          Reveal the tunings after each round
        </label>
        <p className="flex gap-4">
          <button type="button" className="action min-h-6" onClick={() => end(!ended)}>
            {ended ? 'Hide the tally' : 'Show the tally'}
          </button>
          <button type="button" className="action min-h-6" onClick={leave}>
            Leave the trial
          </button>
        </p>
        {ended && <Standing trial={trial} />}
      </aside>
    </div>
  );
}

interface LineProps {
  label: string;
  value: string;
  most: number;
  change(value: string): void;
  /** True if it holds work that leaving the page would lose. */
  isWork?: boolean;
}

function Line({ label, value, most, change, isWork }: LineProps) {
  return (
    <label className="block">
      <span className="text-ink-soft">{label}</span>
      <input
        className="mt-0.5 w-full border-b border-ink bg-transparent py-0.5"
        data-work={isWork ? '' : undefined}
        maxLength={most}
        value={value}
        onChange={(event) => change(event.target.value)}
      />
    </label>
  );
}

/** The tally of all rounds between the two revisions, and the rounds themselves. */
function Standing({ trial: { a, b, $rounds } }: { trial: BlindTrial }) {
  const rounds = useStore($rounds);
  const tally = tallyOf(rounds, a.side, b.side);
  const words = tallyWords(tally, [a.short, b.short]);
  return (
    <section aria-label="Tally">
      <h2 className="rubric">
        {a.side.name} rev {a.side.revision} and {b.side.name} rev {b.side.revision}
      </h2>
      <p className="digits mt-1" data-testid="tally">
        {words || 'No votes yet'}
        {tally.none > 0 && `, ${tally.none} without a difference`}
      </p>
      {words && (
        <p
          className="text-xs text-ink-soft"
          title="p: how likely such a vote or a clearer one is if neither feels better (exact sign test, one-sided). The interval is Clopper and Pearson’s."
        >
          {intervalWords(tally)}
        </p>
      )}
      <p className="mt-2">
        <a className="action" href={`/api/v1/trials.csv?a=${a.side.id}&b=${b.side.id}`} download>
          All rounds as CSV
        </a>
      </p>
      <ul className="mt-2">
        {rounds.slice(0, 30).map((round) => (
          <li key={round.id} className="border-t border-rule/60 py-1 text-xs">
            <span className="digits text-ink-soft">{whenWords(round.createdAt)}</span> {round.who || 'somebody'}:{' '}
            <b className="font-semibold">{betterOf(round)}</b>
            {round.why && `, “${round.why}”`}
          </li>
        ))}
      </ul>
    </section>
  );
}

const betterOf = ({ choice, a, b }: KeptRound) => {
  if (choice === 'none') return 'no difference';
  const { name, revision } = choice === 'a' ? a : b;
  return `${name} rev ${revision}`;
};

/** Entry to a trial on the Compare screen, with the tally of the first two sides. */
export function BlindEntry() {
  const comparing = useComparing();
  const sides = useStore(comparing.$sides);
  const rounds = useStore(comparing.trials.$rounds);
  const [a, b] = comparing.trials.sides;
  if (sides.length < 2) return null;
  const words = a && b ? tallyWords(tallyOf(rounds, a.side, b.side), [a.short, b.short]) : '';
  return (
    <>
      <h2 className="rubric mt-5">Which feels better?</h2>
      {a && b ? (
        <button type="button" className="action mt-1 min-h-6 text-left" onClick={() => comparing.beginTrial()}>
          Blind trial, unnamed and shuffled
        </button>
      ) : (
        <p className="mt-1 text-xs text-ink-soft">A blind trial is between two saved revisions: save this tuning on the bench first.</p>
      )}
      {words && <p className="digits mt-1 text-xs text-ink-soft">{words}</p>}
    </>
  );
}
