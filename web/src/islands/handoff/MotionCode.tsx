import { languageIds, languages } from '@zygopod/code/constants';
import type { TuningFile } from '@zygopod/core';
import { useState } from 'react';
import { Actions } from './Actions.tsx';
import { PlainText } from './FileText.tsx';
import { OneOf } from './OneOf.tsx';
import { useGenerated } from './useGenerated.ts';

/** The motion of a tuning as code in a language, and what holds its body among walls: files made by the server from the core's own stages. */
export function MotionCode({ file, to, choose }: { file: TuningFile; to: string; choose(to: string): void }) {
  const language = languageIds.find((id) => id === to) ?? 'c';
  const [wanted, want] = useState('motion');
  const generated = useGenerated('code', `${language} ${JSON.stringify(file)}`, () => ({ tuning: file, to: language }));
  const files = generated && 'files' in generated ? generated.files : [];
  const hasWalls = files.length !== 1;
  const one = files[wanted === 'walls' && hasWalls ? 1 : 0];
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)]">
      <aside aria-label="Hand-off options" className="flex flex-col gap-3 overflow-y-auto border-r border-rule bg-paper px-3.5 py-2.5">
        <OneOf title="Written in" name="language" all={languages} chosen={language} choose={choose} />
        <OneOf
          title="File"
          name="file"
          all={[
            { id: 'motion', title: 'Motion' },
            { id: 'walls', title: 'Walls', beside: 'optional', disabled: !hasWalls },
          ]}
          chosen={hasWalls ? wanted : 'motion'}
          choose={want}
        />
        <p className="text-xs leading-4 text-ink-soft">
          {wanted === 'walls' && hasWalls
            ? 'Sweeps the body against wall segments and slides it along them. Pass it to the motion, or pass your own function instead.'
            : 'The stages that this tuning uses, with its numbers folded in, generated from the core’s sources. It moves bit for bit as on the bench. Walls and paths are passed in as functions.'}
        </p>
        {!hasWalls && <p className="text-xs leading-4 text-ink-soft">This tuning ignores walls, so it needs no wall code.</p>}
      </aside>
      <section aria-label="The file" className="flex min-h-0 min-w-0 flex-col px-3.5 py-2.5">
        <header className="flex items-baseline gap-4">
          <h2 className="font-semibold" data-testid="file-name">
            {one?.path ?? 'Motion code'}
          </h2>
          {one && <p className="digits text-ink-soft">{one.text.trimEnd().split('\n').length} lines</p>}
          <Actions name={one?.path ?? ''} text={one ? () => one.text : null} />
        </header>
        {generated && 'why' in generated ? (
          <p role="alert" className="mt-2 border border-now p-3 font-semibold text-now">
            ▲ {generated.why}
          </p>
        ) : (
          <PlainText text={one?.text ?? 'Being made …'} />
        )}
      </section>
    </div>
  );
}
