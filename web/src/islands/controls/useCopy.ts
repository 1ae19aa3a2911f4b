import { useState } from 'react';

/** Copies a text to the clipboard; `said` is the result, for screen readers. */
export function useCopy(done = 'Copied'): { said: string | null; copy(text: string): void } {
  const [said, say] = useState<string | null>(null);
  const copy = (text: string) =>
    void navigator.clipboard.writeText(text).then(
      () => say(done),
      () => say('The browser gives no access to its clipboard.'),
    );
  return { said, copy };
}
