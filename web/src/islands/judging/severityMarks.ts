import type { Severity } from '@zygopod/core';

/** The mark and the ink of a severity: never by colour alone. */
export const severityMarks: Readonly<Record<Severity, { mark: string; text: string; words: string }>> = {
  fault: { mark: '▲', text: 'text-now', words: 'Fault' },
  risk: { mark: '◆', text: 'text-stamina-ink', words: 'Risk' },
  hint: { mark: '○', text: 'text-ink-soft', words: 'Hint' },
};
