import { useEffect, useState } from 'react';
import { type MadeFile, makeFiles } from './handOffs.ts';

/** The generated files, or why there are none; null while they are generated. */
export type Made = { files: MadeFile[] } | { why: string } | null;

/** Milliseconds without a change of what is asked before it is asked. */
const REST = 150;

/** Has the server generate files, again when `key` changes; `asked` returns null if there is nothing to request. */
export function useMade(path: 'code' | 'checks', key: string, asked: () => Promise<object> | object | null): Made {
  const [made, set] = useState<{ key: string; made: Made }>({ key: '', made: null });
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is asked is told by its key
  useEffect(() => {
    let current = true;
    const timer = setTimeout(async () => {
      const what = await asked();
      if (what === null || !current) return;
      const answer = await makeFiles(path, what);
      if (current) set({ key, made: answer });
    }, REST);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [path, key]);
  return made.key === key ? made.made : null;
}
