import { useStore } from '@nanostores/react';
import { type ConstantValue, fileStem, intoKept, type KeptSource, placeKept, type Target, termsOfKept, uniqueNames } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import { download } from '../../controls/download.ts';
import { useCopy } from '../../controls/useCopy.ts';
import { fetchChosen, unsavedTargets } from '../../judging/targets.ts';
import type { StoredSource } from '../../source/kept.ts';
import { useTuning } from '../../tuning/context.ts';
import type { HandOffs, KeptHandOff } from '../handOffs.ts';
import { LabelField } from '../LabelField.tsx';
import { Difference } from './Difference.tsx';
import { MissingNumbers } from './MissingNumbers.tsx';
import { Outcomes } from './Outcomes.tsx';
import { PasteSource } from './PasteSource.tsx';
import { SourcePanel } from './SourcePanel.tsx';
import type { SourceStore } from './sourceStore.ts';

/** The game's own code with the tuning's numbers in it, where it is kept with the tuning. */
export function InCode({
  store,
  handOffs,
  head,
  isChanged,
  project,
}: {
  store: SourceStore;
  handOffs: HandOffs;
  head: number;
  isChanged: boolean;
  project: string;
}) {
  const stored = useStore(store.$stored);
  const [isPasting, paste] = useState(false);
  const [said, report] = useState('');
  return (
    <>
      {stored ? (
        <Kept stored={stored} store={store} handOffs={handOffs} head={head} isChanged={isChanged} said={said} again={() => paste(true)} />
      ) : (
        <div className="flex min-h-0 flex-1 flex-col items-start gap-2 px-6 py-8">
          <h2 className="text-[15px] font-semibold">Get your own lines back, with only the numbers changed</h2>
          <p className="max-w-[62ch] text-ink-soft">
            No code is kept with this tuning. Paste the lines of your game that have its numbers, in any language or data format: they are
            read once, and each change of the tuning is shown in them here.
          </p>
          <button type="button" className="mt-2 bg-ink px-3 py-1 font-semibold text-sheet" onClick={() => paste(true)}>
            Paste your code
          </button>
        </div>
      )}
      {isPasting && <PasteSource store={store} stored={stored ?? null} project={project} report={report} close={() => paste(false)} />}
    </>
  );
}

/** Values of a source by its names, as they are written in it: at most what a hand-off keeps. */
function valuesOf(source: KeptSource): Record<string, ConstantValue> {
  const placed = placeKept(source, source.text);
  const names = uniqueNames(placed);
  const values = placed.flatMap(({ path, isGuess, found }, i): [string, ConstantValue][] =>
    path === null || isGuess ? [] : [[(names[i] as string).slice(0, 200), found.value as ConstantValue]],
  );
  return Object.fromEntries(values.slice(0, 500));
}

function Kept({
  stored,
  store,
  handOffs,
  head,
  isChanged,
  said,
  again,
}: {
  stored: StoredSource;
  store: SourceStore;
  handOffs: HandOffs;
  head: number;
  isChanged: boolean;
  said: string;
  again(): void;
}) {
  const { editing, opening } = useTuning();
  const tuning = useStore(editing.$plainTuning);
  const gameNames = useStore(handOffs.$names);
  const handed = useStore(handOffs.$kept);
  const [more, setMore] = useState(0);
  const [label, setLabel] = useState('');
  const targets = useTargets(opening.tuning.id);
  const { source } = stored;
  const into = useMemo(() => intoKept(source, tuning, { more, gameNames }), [source, tuning, more, gameNames]);
  const count = into.edits.length;
  const added = into.missing.filter(({ isAdded }) => isAdded).length;
  const change = (part: Partial<KeptSource>) => void store.change({ source: { ...source, ...part } });
  const keep = () =>
    handOffs.keep({
      tuning: { id: opening.tuning.id, revision: head, name: tuning.file.name },
      changedSince: isChanged,
      to: 'source',
      units: source.units,
      label: label.trim(),
      values: valuesOf(into.next),
    });
  const toggled = (list: readonly string[], path: string, is: boolean) => [...list.filter((one) => one !== path), ...(is ? [path] : [])];
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[204px_minmax(0,1fr)_272px]">
      <SourcePanel
        stored={stored}
        more={more}
        again={again}
        forget={() => void store.forget()}
        link={(path) => void store.change({ path })}
      />
      <section aria-label="Your code" className="flex min-h-0 min-w-0 flex-col px-3.5 py-2.5">
        <header className="flex items-baseline gap-4">
          <h2 className="digits truncate font-semibold" data-testid="file-name">
            {source.name}
          </h2>
          <p className="shrink-0 text-ink-soft" role="status" data-testid="in-code">
            {said || changeWords(count, into.placed, added)}
          </p>
          <span className="ml-auto flex shrink-0 items-baseline gap-4">
            <LabelField label={label} set={setLabel} />
            <Hand name={fileNameOf(source.name)} text={into.text} keep={keep} />
          </span>
        </header>
        {into.refused.length > 0 && (
          <ul className="mt-1 text-now" aria-label="Numbers that stay">
            {into.refused.map(({ path, name, line, why }) => (
              <li key={path}>
                ▲ line {line}: <span className="digits">{name}</span> is unchanged: {why}
              </li>
            ))}
          </ul>
        )}
        {into.edits.some(({ isFlattened }) => isFlattened) && (
          <p className="mt-1 text-stamina-ink">
            ◆ In place of an expression there is a number now:{' '}
            {into.edits
              .filter(({ isFlattened }) => isFlattened)
              .map(({ name }) => name)
              .join(', ')}
            .
          </p>
        )}
        <Difference lines={into.lines} name={source.name} />
        <MissingNumbers
          missing={into.missing}
          skipped={into.skipped.map(({ path }) => path)}
          tuning={tuning}
          units={termsOfKept(source).units}
          add={(path, is) => change({ added: toggled(source.added, path, is) })}
          skip={(path, is) => change({ skipped: toggled(source.skipped, path, is) })}
        />
        <Command name={tuning.file.name} units={source.units} path={stored.path ?? source.name} />
      </section>
      <Outcomes
        into={into}
        tuning={tuning}
        targets={targets}
        more={more}
        setMore={setMore}
        kept={handed.filter(({ to }: KeptHandOff) => to === 'source')}
      />
    </div>
  );
}

/** `3 of 8 numbers change, nothing else`. */
function changeWords(count: number, placed: number, added: number): string {
  const lines = added === 0 ? '' : `, ${added} ${added === 1 ? 'line' : 'lines'} added`;
  if (count === 0) return `no number changes${lines}`;
  return `${count} of ${placed} numbers ${count === 1 ? 'changes' : 'change'}${lines}, nothing else`;
}

const fileNameOf = (name: string) => name.split(/[/\\]/).at(-1) || 'code.txt';

/** Copies or saves the code; whichever works is kept as a hand-off. */
function Hand({ name, text, keep }: { name: string; text: string; keep(): Promise<void> }) {
  const { said, copy } = useCopy();
  return (
    <>
      <span role="status" className="text-ink-soft">
        {said}
      </span>
      <button
        type="button"
        className="action min-h-6"
        onClick={() => {
          download(name, text, 'text/plain');
          void keep();
        }}
      >
        Save file
      </button>
      <button
        type="button"
        className="action min-h-6 font-semibold"
        onClick={() => {
          copy(text);
          void keep();
        }}
      >
        Copy
      </button>
    </>
  );
}

/** The same from the command line. */
function Command({ name, units, path }: { name: string; units: string; path: string }) {
  const { said, copy } = useCopy();
  const quoted = (word: string) => (/^[\w./:,-]+$/.test(word) ? word : `'${word.replaceAll("'", "'\\''")}'`);
  const command = `./zygopod export ${quoted(`${fileStem(name)}.tuning.json`)} --into ${quoted(path)} --units ${units}`;
  return (
    <p className="mt-3 flex shrink-0 items-baseline gap-4">
      <code className="digits min-w-0 truncate text-[13px] text-ink-soft" title={command}>
        {command}
      </code>
      <span role="status" className="ml-auto text-ink-soft">
        {said}
      </span>
      <button type="button" className="action min-h-6 shrink-0" onClick={() => copy(command)}>
        Copy command
      </button>
    </p>
  );
}

/** The targets that a tuning is judged by. */
function useTargets(id: string): readonly Target[] {
  const [targets, set] = useState<readonly Target[]>([]);
  useEffect(() => {
    const unsaved = unsavedTargets(id);
    if (unsaved) return set(unsaved.set.targets);
    let isCurrent = true;
    void fetchChosen(id).then((chosen) => {
      if (isCurrent && chosen) set(chosen.targets);
    });
    return () => {
      isCurrent = false;
    };
  }, [id]);
  return targets;
}
