import { LONGEST_SOURCE, type Placed } from '@zygopod/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { chosenNames } from './kept.ts';
import { PastedRow } from './PastedRow.tsx';
import { firstPasting, type Pasting, type ReadPasting, readPasting } from './pasting.ts';
import { Units } from './Units.tsx';

/** Rows of numbers that are shown. */
const SHOWN = 200;

const placeholder =
  'WALK_SPEED = 3.5f;\n"run_speed": 6,\nlocal accel = 40\n…\n\nConstants in any language, or JSON, YAML, INI, TOML, XML, CSV';

/**
 * Reads numbers that are pasted from code: which parameter each is, and in which units. `finish` takes what was read; it returns why it could not.
 * `first` is what the dialog begins with; a tuning that has a name already needs no other.
 */
export function Paste({
  title,
  verb,
  project,
  first = firstPasting,
  isNamed = false,
  finish,
  close,
}: {
  title: string;
  verb: string;
  project: string;
  first?: Pasting;
  isNamed?: boolean;
  finish(read: ReadPasting, pasting: Pasting): Promise<string | null>;
  close(): void;
}) {
  const [pasting, change] = useState(first);
  const [why, setWhy] = useState<string | null>(null);
  useEffect(() => {
    void chosenNames(project).then((known) => change((now) => ({ ...now, known: { ...known, ...first.known } })));
  }, [project, first]);
  const read = useMemo(() => readPasting(pasting), [pasting]);
  const { placed, names, pasted, terms, likely, doubts, needsUnits } = read;
  const count = (is: (one: Placed) => boolean) => placed.filter(is).length;
  const [sure, guessed, left] = [
    count((one) => one.path !== null && !one.isGuess),
    count((one) => one.path !== null && one.isGuess),
    count((one) => one.path === null && one.found.kind === 'number'),
  ];
  const take = (code: string, fileName = pasting.fileName) => change({ ...pasting, code, fileName, chosen: {}, terms: first.terms });
  return (
    <Overlay title={title} close={close} size="w-[1040px]">
      <div className="grid grid-cols-[380px_minmax(0,1fr)] gap-5">
        <div className="flex flex-col gap-3">
          <textarea
            autoFocus
            aria-label="Code or data with numbers"
            data-work={first.code}
            placeholder={placeholder}
            maxLength={LONGEST_SOURCE}
            spellCheck={false}
            className="digits h-56 w-full resize-none border border-ink bg-paper p-2 text-[13px]"
            value={pasting.code}
            onChange={(event) => take(event.target.value)}
          />
          <Units
            terms={terms}
            likely={likely}
            isChosen={pasting.terms !== null}
            doubts={doubts}
            needsUnits={needsUnits && placed.length > 0}
            change={(changed) => change({ ...pasting, terms: changed })}
          />
          <p className="flex items-baseline gap-2">
            <label className="flex min-w-0 flex-1 items-baseline gap-2">
              File
              <input
                aria-label="Name of the file"
                maxLength={200}
                placeholder="player.lua"
                spellCheck={false}
                className="digits min-w-0 flex-1 border-b border-ink bg-transparent py-0.5 text-[13px]"
                value={pasting.fileName}
                onChange={(event) => change({ ...pasting, fileName: event.target.value })}
              />
            </label>
            <OpenFile take={take} refuse={setWhy} />
          </p>
          {!isNamed && (
            <label className="flex items-baseline gap-2">
              Name
              <input
                aria-label="Name of the tuning"
                maxLength={120}
                className="min-w-0 flex-1 border-b border-ink bg-transparent py-0.5"
                value={pasting.name}
                onChange={(event) => change({ ...pasting, name: event.target.value })}
              />
            </label>
          )}
        </div>
        <div className="flex min-h-0 flex-col">
          <p className="text-ink-soft" role="status" data-testid="pasted">
            {placed.length === 0
              ? 'Paste on the left: each number is listed here with the parameter that it is read as.'
              : `${sure} placed, ${guessed} guessed, ${left} left ${isNamed ? 'out' : 'in the note'}`}
          </p>
          <div className="mt-1 h-[370px] overflow-y-auto border-t border-rule">
            <table className="w-full text-[13px]">
              <tbody>
                {placed
                  .slice(0, SHOWN)
                  .map((one, i) =>
                    one.found.kind === 'word' && !one.path ? null : (
                      <PastedRow
                        key={names[i]}
                        one={one}
                        value={one.path ? pasted.values[one.path] : undefined}
                        refused={one.path ? pasted.refused.find(({ path }) => path === one.path)?.why : undefined}
                        unit={pasted.file.unit ?? 'px'}
                        choose={(path) => change({ ...pasting, chosen: { ...pasting.chosen, [names[i] as string]: path } })}
                      />
                    ),
                  )}
              </tbody>
            </table>
            {placed.length > SHOWN && <p className="text-ink-soft">and {placed.length - SHOWN} more, read in the same manner</p>}
          </div>
        </div>
      </div>
      {why && (
        <p role="alert" className="mt-2 text-now">
          ▲ {why}
        </p>
      )}
      <p className="mt-3 flex items-center justify-end gap-4">
        {guessed > 0 && (
          <span className="mr-auto text-stamina-ink">
            ◆ {guessed === 1 ? 'One is a guess' : `${guessed} are guesses`}: look at them first.
          </span>
        )}
        <button type="button" className="text-ink-soft" onClick={close}>
          Not now
        </button>
        <button
          type="button"
          disabled={Object.keys(pasted.values).length === 0 || needsUnits}
          title={needsUnits ? 'Confirm the units first' : undefined}
          className="bg-ink px-3 py-1 font-semibold text-sheet disabled:opacity-50"
          onClick={() => void finish(read, pasting).then(setWhy)}
        >
          {verb}
        </button>
      </p>
    </Overlay>
  );
}

/** Reads a file from disk in place of a paste. */
function OpenFile({ take, refuse }: { take(code: string, name: string): void; refuse(why: string | null): void }) {
  const input = useRef<HTMLInputElement>(null);
  const open = async (file: File | undefined) => {
    if (!file) return;
    const text = await file.text().catch(() => null);
    if (text === null || text.includes('\0')) return refuse(`${file.name} is not a text file.`);
    if (text.length > LONGEST_SOURCE) return refuse(`${file.name} has ${text.length} characters; at most ${LONGEST_SOURCE} can be read.`);
    refuse(null);
    take(text, file.name);
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        aria-label="Source file"
        data-testid="source-file"
        onChange={(event) => void open(event.target.files?.[0])}
      />
      <button type="button" className="action min-h-6" onClick={() => input.current?.click()}>
        Open file
      </button>
    </>
  );
}
