import { useEffect, useState } from 'react';
import { type MadeFile, makeFiles } from './handOffs.ts';

/** What the server has made, why it has not, or null while it makes it. */
export type Made = { files: MadeFile[] } | { why: string } | null;

/** Milliseconds without a change of what is asked before it is asked. */
const REST = 150;

/** Files that the server makes of what is asked, made anew when `key` changes; `asked` gives null where there is nothing to ask. */
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
