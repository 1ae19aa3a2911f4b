import { useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';

/** Asks for another name. */
export function Rename({ what, name, rename, close }: { what: string; name: string; rename(name: string): void; close(): void }) {
  const [wanted, setWanted] = useState(name);
  const good = wanted.trim() !== '' && wanted.trim().length <= 120;
  return (
    <Overlay title={`Rename the ${what}`} close={close}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!good) return;
          rename(wanted.trim());
          close();
        }}
      >
        <input
          autoFocus
          aria-label="Name"
          maxLength={120}
          className="w-full border-b border-ink bg-transparent py-1"
          value={wanted}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setWanted(event.target.value)}
        />
        <div className="mt-4 flex justify-end gap-4">
          <button type="button" className="text-ink-soft" onClick={close}>
            Not now
          </button>
          <button type="submit" disabled={!good} className="bg-ink px-3 py-1 font-semibold text-sheet disabled:opacity-50">
            Rename
          </button>
        </div>
      </form>
    </Overlay>
  );
}
