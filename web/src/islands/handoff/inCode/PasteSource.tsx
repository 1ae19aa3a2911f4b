import { takeByHand, termsOfKept } from '@zygopod/core';
import { useMemo } from 'react';
import type { StoredSource } from '../../source/kept.ts';
import { Paste } from '../../source/Paste.tsx';
import { firstPasting, type Pasting, type ReadPasting } from '../../source/pasting.ts';
import { useTuning } from '../../tuning/context.ts';
import type { SourceStore } from './sourceStore.ts';

/** Stores code with the tuning, first or again after it was edited by hand; edited numbers are applied to the tuning. */
export function PasteSource({
  store,
  stored,
  project,
  report,
  close,
}: {
  store: SourceStore;
  stored: StoredSource | null;
  project: string;
  /** Reports what was applied. */
  report(words: string): void;
  close(): void;
}) {
  const { editing } = useTuning();
  const first = useMemo((): Pasting => {
    const { name } = editing.$now.get();
    if (!stored) return { ...firstPasting, name };
    const { source } = stored;
    return { ...firstPasting, name, code: source.text, fileName: source.name, known: source.names, terms: termsOfKept(source) };
  }, [stored, editing]);
  const finish = async ({ kept }: ReadPasting, { chosen }: Pasting): Promise<string | null> => {
    const next = kept();
    const source = stored ? { ...next, added: stored.source.added, skipped: stored.source.skipped } : next;
    const byHand = stored ? takeByHand(stored.source, source, editing.$now.get()) : null;
    if (byHand?.why) return `The changed numbers can’t be a tuning together: ${byHand.why}.`;
    const why = await store.change({ source }, chosen);
    if (why) return why;
    const count = Object.keys(byHand?.values ?? {}).length;
    if (byHand && count > 0) {
      editing.setAll(byHand.values, `numbers from ${source.name}`);
      report(
        `${count} ${count === 1 ? 'number was' : 'numbers were'} changed in your code: taken over into the tuning. Ctrl+Z reverts that.`,
      );
    }
    close();
    return null;
  };
  return (
    <Paste
      title={stored ? `Paste ${stored.source.name} again` : 'Keep your code with this tuning'}
      verb={stored ? 'Replace the code' : 'Keep this code'}
      project={project}
      first={first}
      isNamed
      finish={finish}
      close={close}
    />
  );
}
