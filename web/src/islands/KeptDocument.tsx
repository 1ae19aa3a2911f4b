import { collectionOf, type DocumentKind, documentKinds, documentText, fileName, kindMarked, markOf } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { download } from './controls/download.ts';
import { createDocument } from './work/documentActions.ts';
import { browserCopies } from './work/saving/atHand.ts';
import type { Copy } from './work/saving/copies.ts';
import { whenWords } from './work/when.ts';

type Kept = Copy<{ name: string }>;

/** Where a document can't be opened: work on it that this browser keeps, and what can be done with that. */
export function KeptDocument({ id, screen }: { id: string; screen: string }) {
  const [copies, setCopies] = useState<readonly Kept[]>([]);
  const [why, setWhy] = useState<string | null>(null);
  useEffect(() => {
    void browserCopies.of(id).then((found) => setCopies(found as Kept[]));
  }, [id]);
  if (copies.length === 0) return null;
  const kindOf = ({ file }: Kept): DocumentKind => kindMarked(markOf(file)) ?? 'tuning';
  const save = async (copy: Kept) => {
    const created = await createDocument(collectionOf(kindOf(copy)), copy.file, 'From work that this browser kept');
    if ('why' in created) return setWhy(created.why);
    await browserCopies.drop(copy.id, copy.page);
    window.location.assign(`/${screen}/${created.id}`);
  };
  return (
    <section className="mt-6 border-t border-rule pt-3">
      <p>◆ This browser keeps changes to it that were not sent.</p>
      <ul>
        {copies.map((copy) => (
          <li key={copy.page} className="mt-2 flex flex-wrap items-baseline gap-4">
            <span>
              {copy.file.name}, <time className="digits">{whenWords(copy.at, { exact: true })}</time>
            </span>
            <button type="button" className="action" onClick={() => void save(copy)}>
              Save as a new {documentKinds[kindOf(copy)].label}
            </button>
            <button
              type="button"
              className="action"
              onClick={() => download(fileName(kindOf(copy), copy.file.name), documentText(copy.file))}
            >
              Export {documentKinds[kindOf(copy)].label}
            </button>
          </li>
        ))}
      </ul>
      {why && (
        <p role="alert" className="mt-2 text-now">
          ▲ {why}
        </p>
      )}
    </section>
  );
}
