import { useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';

/** Asks for a name and applies the action that `verb` labels; on failure it says why and stays open. */
export function Naming({
  title,
  verb,
  name,
  most = 120,
  take,
  close,
}: {
  title: string;
  verb: string;
  name: string;
  /** Letters at most. */
  most?: number;
  take(name: string): Promise<string | null>;
  close(): void;
}) {
  const [wanted, setWanted] = useState(name);
  const [isBusy, setBusy] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const good = wanted.trim() !== '' && wanted.trim().length <= most;
  const submit = async () => {
    setBusy(true);
    const fault = await take(wanted.trim());
    setBusy(false);
    setWhy(fault);
    if (!fault) close();
  };
  return (
    <Overlay title={title} close={close}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (good && !isBusy) void submit();
        }}
      >
        <input
          autoFocus
          aria-label="Name"
          data-work={name}
          maxLength={most}
          className="w-full border-b border-ink bg-transparent py-1"
          value={wanted}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setWanted(event.target.value)}
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
          <button type="submit" disabled={!good || isBusy} className="bg-ink px-3 py-1 font-semibold text-sheet disabled:opacity-50">
            {verb}
          </button>
        </div>
      </form>
    </Overlay>
  );
}
