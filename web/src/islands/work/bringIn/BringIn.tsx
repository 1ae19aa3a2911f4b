import { useEffect, useState } from 'react';
import { Overlay } from '../../controls/Overlay.tsx';
import { createDocument, putAway } from '../deeds.ts';
import type { Collection } from '../listing.ts';
import { newPageId } from '../saving/pages.ts';
import { askServer } from '../server.ts';
import { forEach, type ReadFile, readFile } from './reading.ts';

const collectionOf = { tuning: 'tunings', ground: 'grounds', tape: 'tapes', targets: 'targets' } as const satisfies Record<
  string,
  Collection
>;

/** Files with faults that are listed. */
const LISTED = 30;

/** Brings files in: what is good in them, once it was shown what is not. */
export function BringIn({ files, close, done }: { files: readonly File[]; close(): void; done(): void }) {
  const [read, setRead] = useState<readonly ReadFile[] | null>(null);
  const [count, setCount] = useState<number | null>(null);
  const [faults, setFaults] = useState<readonly string[]>([]);
  const [isDone, finish] = useState(false);
  const [into, setInto] = useState<string | undefined>(undefined);
  /** What this import has made, by the member's place; asked again with its key, each is made once. */
  const [own] = useState(() => ({ key: newPageId(), made: new Map<number, { collection: Collection; id: string }>() }));
  useEffect(() => {
    let current = true;
    const all: ReadFile[] = [];
    void forEach(
      files,
      async (file) => {
        all.push(await readFile(file));
      },
      () => undefined,
    ).then(() => current && setRead(all));
    return () => {
      current = false;
    };
  }, [files]);
  const members = (read ?? []).flatMap((one) => one.members);
  const broken = (read ?? []).filter((one) => one.faults.length > 0);
  const project = read?.length === 1 ? (read[0]?.project ?? null) : null;

  const importAll = async (into: string | undefined) => {
    const refused: string[] = [];
    finish(false);
    setCount(0);
    setFaults([]);
    await forEach(
      members.map((member, i) => ({ ...member, i })),
      async ({ kind, name, reading, i }) => {
        if (own.made.has(i)) return;
        const made = await createDocument(collectionOf[kind], reading.ok ? reading.value : null, 'Brought in', {
          project: into,
          key: `${own.key}-${i}`,
        });
        if ('why' in made) refused.push(`${name}: ${made.why}`);
        else own.made.set(i, { collection: collectionOf[kind], id: made.id });
      },
      setCount,
    );
    setFaults(refused);
    setInto(into);
    finish(true);
    if (refused.length === 0 && into) window.location.assign(`/shelf/${into}`);
    else done();
    if (refused.length === 0 && broken.length === 0) close();
  };
  const importAsOwn = async () => {
    const made = await askServer<{ id: string }>('POST', '/api/v1/projects', project);
    if ('why' in made) setFaults([made.why]);
    else await importAll(made.body.id);
  };
  const undo = async () => {
    setCount(0);
    finish(false);
    const left: string[] = [];
    await forEach(
      [...own.made],
      async ([i, { collection, id }]) => {
        const why = await putAway(collection, id, 1);
        if (why) left.push(`${members[i]?.name}: ${why}`);
        else own.made.delete(i);
      },
      setCount,
    );
    done();
    setFaults(left);
    if (left.length === 0) close();
    else finish(true);
  };
  const isBusy = count !== null && !isDone;
  useEffect(() => {
    if (!isBusy) return;
    const asking = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', asking);
    return () => window.removeEventListener('beforeunload', asking);
  }, [isBusy]);
  const many = `${members.length.toLocaleString('en')} ${members.length === 1 ? 'document' : 'documents'}`;
  return (
    <Overlay title="Bring in" close={close} wide>
      {!read && <p className="text-ink-soft">Reading {files.length.toLocaleString('en')} files …</p>}
      {read && (
        <p data-testid="brought">
          {isDone ? `${own.made.size.toLocaleString('en')} of ${many} brought in` : `${many} can be brought in`}
          {members.length === 1 && `: ${members[0]?.name}`}
          {broken.length > 0 && `; ${broken.length} ${broken.length === 1 ? 'file has' : 'files have'} faults`}.
        </p>
      )}
      {count !== null && !isDone && (
        <p className="mt-2 text-ink-soft" role="status">
          <progress className="w-full accent-route" max={members.length} value={count} /> {count} of {members.length}
        </p>
      )}
      {(broken.length > 0 || faults.length > 0) && (
        <ul className="mt-2 max-h-64 overflow-y-auto text-[13px]" aria-label="What is wrong">
          {faults.map((fault) => (
            <li key={fault} className="text-now">
              ▲ {fault}
            </li>
          ))}
          {broken.slice(0, LISTED).map((one) => (
            <li key={one.name} className="border-t border-rule/60 py-1">
              <b className="font-semibold break-all">{one.name}</b>
              {one.members.length > 0 && <span className="text-route"> keeps {one.members.length}</span>}
              <ul>
                {one.faults.map((fault) => (
                  <li key={fault} className="digits text-xs break-words text-now">
                    {fault}
                  </li>
                ))}
              </ul>
            </li>
          ))}
          {broken.length > LISTED && <li>and {broken.length - LISTED} files more</li>}
        </ul>
      )}
      <p className="mt-4 flex justify-end gap-4">
        <button type="button" className="text-ink-soft" onClick={close}>
          {isDone ? 'Close' : 'Not now'}
        </button>
        {isDone && own.made.size > 0 && (
          <button type="button" className="deed min-h-6" onClick={() => void undo()}>
            Undo import
          </button>
        )}
        {isDone && faults.length > 0 && (
          <button type="button" className="deed min-h-6" onClick={() => void importAll(into)}>
            Import the rest
          </button>
        )}
        {read && !isDone && project && (
          <button type="button" className="deed min-h-6" disabled={count !== null} onClick={() => void importAsOwn()}>
            As a project of its own
          </button>
        )}
        {read && !isDone && (
          <button
            type="button"
            disabled={members.length === 0 || count !== null}
            className="bg-ink px-3 py-1 font-semibold text-sheet disabled:opacity-50"
            onClick={() => void importAll(undefined)}
          >
            Bring in
          </button>
        )}
      </p>
    </Overlay>
  );
}
