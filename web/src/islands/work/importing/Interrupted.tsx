import { useEffect, useState } from 'react';
import { dropRecord, type ImportRecord, imported, interruptedIn, undoImport } from './record.ts';

/** Reports imports into a project that were interrupted; each can be undone, or kept as it is. */
export function Interrupted({ project, changed }: { project: string; changed(): void }) {
  const [records, setRecords] = useState<readonly ImportRecord[]>([]);
  const dismiss = (record: ImportRecord) => setRecords((all) => all.filter((one) => one !== record));
  useEffect(() => {
    let isCurrent = true;
    void interruptedIn(project).then((found) => isCurrent && setRecords(found));
    return () => {
      isCurrent = false;
    };
  }, [project]);
  return records.map((record) => <Row key={record.key} record={record} changed={changed} dismiss={() => dismiss(record)} />);
}

function Row({ record, changed, dismiss }: { record: ImportRecord; changed(): void; dismiss(): void }) {
  const [count, setCount] = useState<number | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  useEffect(() => {
    let isCurrent = true;
    void imported(record).then((found) => {
      if (!isCurrent) return;
      if ('why' in found) {
        setWhy(found.why);
        return;
      }
      setCount(found.length);
      // Only the page didn't learn that the last document was created.
      if (found.length >= record.total) dropRecord(record.key);
    });
    return () => {
      isCurrent = false;
    };
  }, [record]);
  const undo = async () => {
    const left = await undoImport(record);
    changed();
    if (left.length === 0) dismiss();
    else setWhy(left[0] ?? null);
  };
  const keep = () => {
    dropRecord(record.key);
    dismiss();
  };
  if (count !== null && count >= record.total) return null;
  return (
    <p role="alert" className="flex flex-wrap items-baseline gap-x-4 border-b border-ink bg-solid px-4 py-1.5">
      <span>
        ◆ An import stopped after {count ?? '…'} of {record.total} documents. To continue, import the same files again.
      </span>
      <button type="button" className="action min-h-6" onClick={() => void undo()}>
        Undo import
      </button>
      <button type="button" className="action min-h-6" onClick={keep}>
        Keep them
      </button>
      {why && <span className="text-now">▲ {why}</span>}
    </p>
  );
}
