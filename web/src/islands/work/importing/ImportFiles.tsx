import { collectionOf } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { Overlay } from '../../controls/Overlay.tsx';
import { createDocument } from '../documentActions.ts';
import { $project } from '../project.ts';
import { newPageId } from '../saving/pages.ts';
import { askServer } from '../server.ts';
import { forEach, type ReadFile, readFile } from './reading.ts';
import { beginImport, continuable, imported, importNote, undoImport } from './record.ts';

/** Files with faults that are listed. */
const LISTED = 30;

/** Imports files: shows their faults first, then imports the valid documents. */
export function ImportFiles({ files, close, done }: { files: readonly File[]; close(): void; done(): void }) {
  const [read, setRead] = useState<readonly ReadFile[] | null>(null);
  const [count, setCount] = useState<number | null>(null);
  const [faults, setFaults] = useState<readonly string[]>([]);
  const [isDone, finish] = useState(false);
  /** The project that the documents go to, once that is known. */
  const [project, setProject] = useState<string | undefined>(undefined);
  const [key, setKey] = useState(newPageId);
  const [created, setCreated] = useState(0);
  useEffect(() => {
    let current = true;
    const all: ReadFile[] = [];
    const reading = forEach(
      files.map((file, i) => ({ file, i })),
      async ({ file, i }) => {
        all[i] = await readFile(file);
      },
      () => undefined,
    );
    const resumed = continuable(files).then(async (record) => {
      const there = record && (await imported(record));
      return there && !('why' in there) ? { record, count: there.length } : null;
    });
    void Promise.all([resumed, reading]).then(([before]) => {
      if (!current) return;
      setRead(all);
      if (!before) return;
      // The same files again: continue the interrupted import.
      setKey(before.record.key);
      setProject(before.record.project);
      setCreated(before.count);
      setCount(before.count);
      finish(true);
    });
    return () => {
      current = false;
    };
  }, [files]);
  const members = (read ?? []).flatMap((one) => one.members);
  const broken = (read ?? []).filter((one) => one.faults.length > 0);
  const ownProject = read?.length === 1 ? (read[0]?.project ?? null) : null;

  const importAll = async (into: string | undefined) => {
    const refused: string[] = [];
    let good = 0;
    const target = into ?? $project.get()?.id;
    const end = target ? beginImport(key, target, files, members.length) : () => undefined;
    setProject(target);
    finish(false);
    setCount(0);
    setFaults([]);
    await forEach(
      members.map((member, i) => ({ ...member, i })),
      async ({ kind, name, reading, i }) => {
        // One that was created before is not created again: its key is known.
        const created = await createDocument(collectionOf(kind), reading.ok ? reading.value : null, importNote(key), {
          project: target,
          key: `${key}-${i}`,
        });
        if ('why' in created) refused.push(`${name}: ${created.why}`);
        else good++;
      },
      setCount,
    );
    end();
    setFaults(refused);
    setCreated(good);
    finish(true);
    if (refused.length === 0 && into && into !== $project.get()?.id) window.location.assign(`/shelf/${into}`);
    else done();
    if (refused.length === 0 && broken.length === 0) close();
  };
  const importAsOwn = async () => {
    const created = await askServer<{ id: string }>('POST', '/api/v1/projects', { body: ownProject });
    if ('why' in created) setFaults([created.why]);
    else await importAll(created.body.id);
  };
  const undo = async () => {
    if (!project) return;
    finish(false);
    const left = await undoImport({ project, key });
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
    <Overlay title="Import" close={close} wide>
      {!read && <p className="text-ink-soft">Reading {files.length.toLocaleString('en')} files …</p>}
      {read && (
        <p data-testid="brought">
          {isDone ? `${created.toLocaleString('en')} of ${many} imported` : `${many} can be imported`}
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
        {isDone && created > 0 && (
          <button type="button" className="action min-h-6" onClick={() => void undo()}>
            Undo import
          </button>
        )}
        {isDone && created < members.length && (
          <button type="button" className="action min-h-6" onClick={() => void importAll(project)}>
            Import the rest
          </button>
        )}
        {read && !isDone && ownProject && (
          <button type="button" className="action min-h-6" disabled={count !== null} onClick={() => void importAsOwn()}>
            Import as a new project
          </button>
        )}
        {read && !isDone && (
          <button
            type="button"
            disabled={members.length === 0 || count !== null}
            className="bg-ink px-3 py-1 font-semibold text-sheet disabled:opacity-50"
            onClick={() => void importAll(undefined)}
          >
            Import
          </button>
        )}
      </p>
    </Overlay>
  );
}
