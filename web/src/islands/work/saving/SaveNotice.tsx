import { useStore } from '@nanostores/react';
import { collectionOf, documentText, fileName, mergeFiles, rawAt, specOf, specs, type TuningFile, valueWords } from '@zygopod/core';
import { type ReactNode, useState } from 'react';
import { download } from '../../controls/download.ts';
import { Notice } from '../../controls/Notice.tsx';
import { createDocument } from '../documentActions.ts';
import { addressOf, placeOf, useScreens } from '../place.ts';
import { askServer, type Refusal, signIn } from '../server.ts';
import type { Steps } from '../steps.ts';
import { whenWords } from '../when.ts';
import type { Work } from '../work.ts';
import type { Offer } from './adopting.ts';
import { keptWords, refusalWords } from './refusalWords.ts';

interface Named {
  name: string;
}

/** Shows why saving is blocked and what to do, or else the other notices. */
export function SaveNotice<F extends Named, S extends Steps<F>>({ work, otherwise }: { work: Work<F, S>; otherwise: ReactNode }) {
  const { saving, adopting } = work;
  const state = useStore(saving.$state);
  const isKept = useStore(saving.$kept);
  const [offer] = useStore(adopting.$offers);
  if (state.at === 'conflict') return <Conflict work={work} />;
  if (state.at === 'offline')
    return (
      <Notice tone="trouble" role="alert">
        <span data-testid="save-trouble">
          ◆ {state.why} {keptWords(isKept)} {isKept && 'They are sent when it answers.'}
        </span>
        <Retry work={work} />
      </Notice>
    );
  if (state.at === 'refused')
    return (
      <Notice tone="trouble" role="alert">
        <span data-testid="save-trouble" data-refusal={state.refusal}>
          ◆ {refusalWords(state, work.trade.subject)} {saving.isUnsettled && keptWords(isKept)}
        </span>
        <Choices work={work} refusal={state.refusal} />
      </Notice>
    );
  if (!isKept && saving.isUnsettled)
    return (
      <Notice tone="trouble" role="alert">
        <span data-testid="save-trouble">◆ {keptWords(false)}</span>
      </Notice>
    );
  return offer ? <Kept key={offer.page} work={work} offer={offer} /> : otherwise;
}

function Retry<F extends Named, S extends Steps<F>>({ work }: { work: Work<F, S> }) {
  return (
    <button type="button" className="action" onClick={() => void work.saving.retry()}>
      Try now
    </button>
  );
}

/** Actions for a refusal. */
function Choices<F extends Named, S extends Steps<F>>({ work, refusal }: { work: Work<F, S>; refusal: Refusal }) {
  const { trade, opening, steps, saving } = work;
  const { here } = useScreens();
  const [why, setWhy] = useState<string | null>(null);
  const collection = collectionOf(trade.subject);
  const restore = async () => {
    const answer = await askServer('POST', `/api/v1/${collection}/${saving.id}/back`);
    // Somebody else may have restored it already.
    setWhy('why' in answer ? answer.why : null);
    await saving.retry();
  };
  const copy = async () => {
    const file = steps.$now.get();
    const created = await createDocument(collection, { ...file, name: `${file.name.slice(0, 112)}, a copy` }, `From ${file.name}`);
    if ('why' in created) return setWhy(created.why);
    await saving.abandon();
    window.location.assign(addressOf(here, { ...placeOf(opening), [trade.subject]: created.id }));
  };
  const exportFile = () => {
    const file = steps.$now.get();
    download(fileName(trade.subject, file.name), documentText(file));
  };
  return (
    <>
      {refusal === 'archived' && (
        <button type="button" className="action" onClick={() => void restore()}>
          Restore {trade.subject}
        </button>
      )}
      {(refusal === 'archived' || refusal === 'gone') && (
        <button type="button" className="action" onClick={() => void copy()}>
          Save as a copy
        </button>
      )}
      {refusal === 'unauthorised' && <SignIn done={() => void saving.retry()} />}
      {(refusal === 'tooLarge' || refusal === 'invalid') && (
        <>
          <button type="button" className="action" onClick={() => steps.undo()}>
            Undo
          </button>
          <button type="button" className="action" onClick={exportFile}>
            Export {trade.subject}
          </button>
        </>
      )}
      {(refusal === 'forbidden' || refusal === 'failed') && <Retry work={work} />}
      {why && <span className="text-now">▲ {why}</span>}
    </>
  );
}

/** Asks for the access token, which the server keeps as a cookie. */
function SignIn({ done }: { done(): void }) {
  const [token, setToken] = useState('');
  const [isWrong, setWrong] = useState(false);
  const enter = async () => {
    const isRight = await signIn(token);
    setWrong(!isRight);
    if (isRight) done();
  };
  return (
    <form
      className="flex items-baseline gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void enter();
      }}
    >
      <input
        type="password"
        aria-label="Access token"
        placeholder="Access token"
        aria-invalid={isWrong}
        autoComplete="off"
        className="digits w-[18ch] border-b border-ink bg-transparent"
        value={token}
        onChange={(event) => setToken(event.target.value)}
        onKeyDown={(event) => event.stopPropagation()}
      />
      <button type="submit" className="action" disabled={token === ''}>
        Sign in
      </button>
      {isWrong && <span className="text-now">▲ The server doesn't know this token.</span>}
    </form>
  );
}

/** Shows a conflicting change by somebody else: merge both, or use theirs. */
function Conflict<F extends Named, S extends Steps<F>>({ work: { trade, steps, saving } }: { work: Work<F, S> }) {
  const state = useStore(saving.$state);
  const mine = useStore(steps.$now) as F;
  if (state.at !== 'conflict') return null;
  const { file, conflicts } = mergeFiles(trade.subject, state.from, mine, state.theirs, state.sent);
  const take = (wanted: F) => {
    saving.settle(wanted);
    if (state.head !== undefined) steps.$before.set(state.saved ?? state.theirs);
    steps.replace(wanted, `merge with the other ${trade.subject}`);
  };
  return (
    <Notice tone="trouble" role="alert">
      <span>
        ◆ This {trade.subject} was changed in another tab or by somebody else.{' '}
        {conflicts.length > 0 ? `Both changed: ${conflictWords(conflicts, mine, state.theirs)}.` : 'Nothing was changed by both.'}
      </span>
      <button type="button" className="action" onClick={() => take(file)}>
        {conflicts.length > 0 ? 'Keep both, mine where both changed' : 'Keep both'}
      </button>
      <button type="button" className="action" onClick={() => take(state.theirs)}>
        Use theirs
      </button>
    </Notice>
  );
}

/** Work that this browser kept, where the same was changed elsewhere. */
function Kept<F extends Named, S extends Steps<F>>({ work: { steps, adopting }, offer }: { work: Work<F, S>; offer: Offer<F> }) {
  const here = useStore(steps.$now) as F;
  // Compare with the present work: it may have changed since the offer.
  const { conflicts } = adopting.merged(offer, here);
  return (
    <Notice tone="trouble" role="alert">
      <span data-testid="kept-work">
        ◆ This browser kept unsent changes from {whenWords(offer.at, { exact: true })}.{' '}
        {conflicts.length > 0 && `Also changed elsewhere: ${conflictWords(conflicts, offer.file, here)}.`}
      </span>
      <button type="button" className="action" onClick={() => adopting.decide(offer, 'kept')}>
        Use the kept values
      </button>
      <button type="button" className="action" onClick={() => adopting.decide(offer, 'here')}>
        Discard them
      </button>
    </Notice>
  );
}

/** Conflicts that are listed; the others are counted. */
const LISTED = 8;

function conflictWords(paths: readonly string[], mine: object, theirs: object): string {
  const words = paths.slice(0, LISTED).map((path) => {
    if (!specs.has(path)) return path;
    const value = (file: object) => valueWords(rawAt(file as TuningFile, path));
    return `${specOf(path).label} ${value(mine)} (there ${value(theirs)})`;
  });
  const more = paths.length - LISTED;
  return `${words.join(', ')}${more > 0 ? ` and ${more} more` : ''}`;
}
