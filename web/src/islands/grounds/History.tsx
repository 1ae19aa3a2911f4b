import { readGround } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { useGround } from './session.ts';

interface Revision {
  number: number;
  note: string;
  createdAt: string;
}

/** The revisions of the ground; an old one can be laid on the sheet again, as a step that undo takes back. */
export function History({ id, close }: { id: string; close(): void }) {
  const { steps } = useGround();
  const [revisions, setRevisions] = useState<readonly Revision[] | null>(null);
  const [next, setNext] = useState<number | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const more = async (before: number | null) => {
    try {
      const response = await fetch(`/api/v1/grounds/${id}/revisions${before ? `?before=${before}` : ''}`);
      if (!response.ok) throw new Error(`The server said ${response.status}.`);
      const page = (await response.json()) as { items: Revision[]; next: number | null };
      setRevisions((known) => (before ? [...(known ?? []), ...page.items] : page.items));
      setNext(page.next);
    } catch (error) {
      setWhy(error instanceof Error ? error.message : String(error));
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: fetched once for the ground that is open
  useEffect(() => void more(null), [id]);
  const bring = async (number: number) => {
    const response = await fetch(`/api/v1/grounds/${id}/revisions/${number}`);
    const reading = response.ok ? readGround(((await response.json()) as { file: unknown }).file) : null;
    if (!reading?.ok) {
      setWhy(`Revision ${number} could not be fetched.`);
      return;
    }
    steps.replace(reading.value, `back to revision ${number}`);
    close();
  };
  return (
    <Overlay title="History" close={close}>
      {why && (
        <p role="alert" className="text-now">
          ▲ {why}
        </p>
      )}
      {!revisions && !why && <p className="text-ink-soft">Fetching …</p>}
      <ul>
        {revisions?.map(({ number, note, createdAt }) => (
          <li key={number} className="flex items-baseline gap-3 border-b border-rule/60 py-1">
            <span className="digits w-14 text-xs">rev {number}</span>
            <span className="min-w-0 flex-1 truncate">{note || <span className="text-ink-soft">no note</span>}</span>
            <time className="digits text-xs text-ink-soft" dateTime={createdAt}>
              {new Date(createdAt).toLocaleString()}
            </time>
            <button type="button" className="deed text-xs" onClick={() => void bring(number)}>
              Bring back
            </button>
          </li>
        ))}
      </ul>
      {next && (
        <button type="button" className="deed mt-2 text-xs" onClick={() => void more(next)}>
          Older ones
        </button>
      )}
    </Overlay>
  );
}
