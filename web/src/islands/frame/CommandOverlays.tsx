import { useStore } from '@nanostores/react';
import { controls } from '@zygopod/core';
import { useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { $bindings, type Bindings, controlWords, keysOf, keyWord } from '../drive/bindings.ts';
import type { Command } from '../work/commands.ts';

/** Each control with its keys. */
function drivingKeys(bindings: Bindings): (readonly [string, string])[] {
  return controls
    .filter((control) => keysOf(bindings, control).length > 0)
    .map((control) => [[...new Set(keysOf(bindings, control).map(keyWord))].join(' '), controlWords[control]] as const);
}

/** All keys: those that drive, and those that do not. */
export function KeyList({ commands, more, close }: { commands: Command[]; more: readonly (readonly [string, string])[]; close(): void }) {
  const bindings = useStore($bindings);
  return (
    <Overlay title="Keys" close={close}>
      <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-4 gap-y-1">
        {[...drivingKeys(bindings), ...more, ...commands.filter(({ key }) => key).map(({ key, label }) => [key, label] as const)].map(
          ([key, label]) => (
            <div key={key + label} className="contents">
              <dt>
                <kbd className="keycap">{key}</kbd>
              </dt>
              <dd>{label}</dd>
            </div>
          ),
        )}
      </dl>
    </Overlay>
  );
}

/** All commands, to be found by typing a part of their name. */
export function CommandList({ commands, close }: { commands: Command[]; close(): void }) {
  const [wanted, setWanted] = useState('');
  const [picked, pick] = useState(0);
  const found = commands.filter(({ label }) => label.toLowerCase().includes(wanted.trim().toLowerCase()));
  const run = (command: Command | undefined) => {
    if (!command) return;
    close();
    command.run();
  };
  return (
    <Overlay title="Commands" close={close}>
      <input
        autoFocus
        role="combobox"
        aria-label="Find a command"
        aria-expanded="true"
        aria-controls="command-list"
        aria-activedescendant={found[picked] ? `command-${found[picked].id}` : undefined}
        placeholder="Find a command"
        className="w-full border-b border-ink bg-transparent py-1"
        value={wanted}
        onChange={(event) => {
          setWanted(event.target.value);
          pick(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') pick(Math.min(found.length - 1, picked + 1));
          else if (event.key === 'ArrowUp') pick(Math.max(0, picked - 1));
          else if (event.key === 'Enter') run(found[picked]);
          else return;
          event.preventDefault();
        }}
      />
      <ul id="command-list" role="listbox" aria-label="Commands" className="mt-2">
        {found.map((command, i) => (
          <li
            key={command.id}
            id={`command-${command.id}`}
            role="option"
            aria-selected={i === picked}
            className="flex cursor-pointer justify-between px-2 py-1 aria-selected:bg-paper aria-selected:font-semibold"
            onPointerEnter={() => pick(i)}
            onClick={() => run(command)}
          >
            {command.label}
            {command.key && <kbd className="keycap">{command.key}</kbd>}
          </li>
        ))}
        {found.length === 0 && <li className="px-2 py-1 text-ink-soft">No command matches.</li>}
      </ul>
    </Overlay>
  );
}

/** Asks for a note and saves. A failure is said here, and the draft stays. */
export function SaveRevision({ save, close }: { save(note: string): Promise<string | null>; close(): void }) {
  const [note, setNote] = useState('');
  const [busy, setBusy] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const submit = async () => {
    setBusy(true);
    const fault = await save(note);
    setBusy(false);
    if (fault) setWhy(fault);
    else close();
  };
  return (
    <Overlay title="Save revision" close={close}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <label className="block text-ink-soft" htmlFor="revision-note">
          Note (optional)
        </label>
        <input
          id="revision-note"
          autoFocus
          maxLength={2000}
          data-work=""
          className="mt-1 w-full border-b border-ink bg-transparent py-1"
          placeholder="What changed, and how it feels"
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        {why && (
          <p role="alert" className="mt-2 text-now">
            ▲ {why}
          </p>
        )}
        <div className="mt-4 flex justify-end gap-4">
          <button type="button" className="text-ink-soft" onClick={close}>
            Not now
          </button>
          <button type="submit" disabled={busy} className="bg-ink px-3 py-1 font-semibold text-sheet disabled:opacity-50">
            {busy ? 'Saving …' : 'Save'}
          </button>
        </div>
      </form>
    </Overlay>
  );
}
