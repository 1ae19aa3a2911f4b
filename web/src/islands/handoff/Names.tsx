import { inCase, specs, wordsOfPath } from '@zygopod/core';
import { useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { useGuard } from '../work/unfinished.ts';

/** The game's names for parameters, stored in the project; an empty name keeps ours. */
export function Names({
  names,
  rename,
  close,
}: {
  names: Readonly<Record<string, string>>;
  rename(names: Record<string, string>): void;
  close(): void;
}) {
  const [own, setOwn] = useState<Readonly<Record<string, string>>>(names);
  const [wanted, find] = useState('');
  useGuard(() => Object.keys({ ...own, ...names }).some((path) => (own[path] ?? '').trim() !== (names[path] ?? '')));
  const rows = [...specs].filter(([path, { label }]) => `${path} ${label} ${own[path] ?? ''}`.toLowerCase().includes(wanted.toLowerCase()));
  return (
    <Overlay title="Names in your game" close={close} wide>
      <input
        autoFocus
        type="search"
        aria-label="Find a parameter"
        placeholder="Filter by name"
        className="w-full border-b border-ink bg-transparent py-1"
        value={wanted}
        onChange={(event) => find(event.target.value)}
      />
      <ul className="mt-2 h-80 overflow-y-auto" aria-label="Names">
        {rows.map(([path, { label }]) => (
          <li key={path} className="flex items-baseline gap-3 border-b border-rule/60 py-0.5">
            <span className="w-40 truncate">{label}</span>
            <span className="digits w-52 truncate text-xs text-ink-soft">{path}</span>
            <input
              aria-label={`Name of ${path}`}
              maxLength={200}
              placeholder={inCase(wordsOfPath(path), 'snake_case')}
              className="digits min-h-6 min-w-0 flex-1 border-b border-rule bg-transparent text-[13px]"
              value={own[path] ?? ''}
              onChange={(event) => setOwn({ ...own, [path]: event.target.value })}
            />
          </li>
        ))}
      </ul>
      <p className="mt-3 flex justify-end gap-4">
        <button type="button" className="text-ink-soft" onClick={close}>
          Not now
        </button>
        <button
          type="button"
          className="bg-ink px-3 py-1 font-semibold text-sheet"
          onClick={() => {
            rename(Object.fromEntries(Object.entries(own).flatMap(([path, name]) => (name.trim() ? [[path, name.trim()]] : []))));
            close();
          }}
        >
          Save names
        </button>
      </p>
    </Overlay>
  );
}
