import { type TuningFile, writers } from '@zygopod/core';
import { download } from '../controls/download.ts';
import { useCopy } from '../controls/useCopy.ts';
import { PlainText } from './FileText.tsx';
import { motionLanguages } from './session.ts';
import { useMade } from './useMade.ts';

/** The motion of a tuning as code in a language: one file, made by the server from the core's own stages. */
export function MotionCode({ file, to, choose }: { file: TuningFile; to: string; choose(to: string): void }) {
  const language = motionLanguages.includes(to) ? to : 'c';
  const made = useMade('code', `${language} ${JSON.stringify(file)}`, () => ({ tuning: file, to: language }));
  const { said, copy } = useCopy();
  const one = made && 'files' in made ? made.files[0] : undefined;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)]">
      <aside aria-label="How it is handed over" className="flex flex-col gap-3 overflow-y-auto border-r border-rule bg-paper px-3.5 py-2.5">
        <fieldset>
          <legend className="rubric">Written in</legend>
          {writers
            .filter(({ id }) => motionLanguages.includes(id))
            .map(({ id, title }) => (
              <label
                key={id}
                className="relative -mx-2 flex min-h-6 cursor-pointer items-center px-2 has-checked:bg-ink has-checked:text-sheet has-focus-visible:outline-2"
              >
                <input
                  type="radio"
                  name="language"
                  className="absolute inset-0 size-full cursor-pointer opacity-0"
                  checked={language === id}
                  onChange={() => choose(id)}
                />
                {title}
              </label>
            ))}
        </fieldset>
        <p className="text-xs leading-4 text-ink-soft">
          The stages that this tuning uses, with its numbers folded in, made from the core’s own sources: it moves as the bench does, bit
          for bit. Walls stay the game’s: it passes in a function that moves the body among them.
        </p>
      </aside>
      <section aria-label="The file" className="flex min-h-0 min-w-0 flex-col px-3.5 py-2.5">
        <header className="flex items-baseline gap-4">
          <h2 className="font-semibold" data-testid="file-name">
            {one?.path ?? 'Motion code'}
          </h2>
          {one && <p className="digits text-ink-soft">{one.text.trimEnd().split('\n').length} lines</p>}
          <span className="ml-auto flex items-baseline gap-4">
            <span role="status" className="text-ink-soft">
              {said}
            </span>
            <button
              type="button"
              className="deed min-h-6"
              disabled={!one}
              onClick={() => one && download(one.path, one.text, 'text/plain')}
            >
              Save
            </button>
            <button type="button" className="deed min-h-6 font-semibold" disabled={!one} onClick={() => one && copy(one.text)}>
              Copy
            </button>
          </span>
        </header>
        {made && 'why' in made ? (
          <p role="alert" className="mt-2 border border-now p-3 font-semibold text-now">
            ▲ {made.why}
          </p>
        ) : (
          <PlainText text={one?.text ?? 'Being made …'} />
        )}
      </section>
    </div>
  );
}
