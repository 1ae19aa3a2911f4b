import type { ReactNode } from 'react';

/** A titled part of the lower edge that scrolls by itself. */
export const Panel = ({ title, head, children }: { title: string; head?: ReactNode; children: ReactNode }) => (
  <section aria-label={title} className="flex min-h-0 flex-col border-l border-rule px-3.5 pt-2 first:border-l-0">
    <header className="flex items-baseline justify-between gap-3 pb-1">
      <h2 className="font-semibold whitespace-nowrap">{title}</h2>
      {head}
    </header>
    <div tabIndex={0} className="min-h-0 flex-1 overflow-y-auto pb-2">
      {children}
    </div>
  </section>
);
