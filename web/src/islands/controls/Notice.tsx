import type { ReactNode } from 'react';

/** Severity of a notice: a problem; something being tried; something shown in place of the current state. */
const tones = {
  trouble: 'border-ink bg-solid text-ink',
  now: 'border-now bg-sheet text-now',
  other: 'border-other bg-sheet text-other',
} as const;

/** A line that is laid over the upper edge of a chart between its side panels: it comes and goes, and moves nothing. */
export function Notice({ tone, role, children }: { tone: keyof typeof tones; role: 'alert' | 'status'; children: ReactNode }) {
  return (
    <div className="pointer-events-none absolute top-10 right-[248px] left-[212px] z-20 flex justify-center">
      <div role={role} className={`pointer-events-auto flex flex-wrap items-baseline gap-x-4 border px-3 py-1.5 ${tones[tone]}`}>
        {children}
      </div>
    </div>
  );
}
