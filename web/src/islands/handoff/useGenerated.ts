import { useEffect, useState } from 'react';
import { type GeneratedFile, generateFiles } from './handOffs.ts';

/** The generated files, or why there are none; null while they are generated. */
export type Generated = { files: GeneratedFile[] } | { why: string } | null;

/** Milliseconds without a change before the request is sent. */
const REST = 150;

/** Has the server generate files, again when `key` changes; `bodyOf` returns null if there is nothing to request. */
export function useGenerated(path: 'code' | 'checks', key: string, bodyOf: () => Promise<object> | object | null): Generated {
  const [generated, set] = useState<{ key: string; generated: Generated }>({ key: '', generated: null });
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the request
  useEffect(() => {
    let current = true;
    const timer = setTimeout(async () => {
      const what = await bodyOf();
      if (what === null || !current) return;
      const answer = await generateFiles(path, what);
      if (current) set({ key, generated: answer });
    }, REST);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [path, key]);
  return generated.key === key ? generated.generated : null;
}
