import type { ReactNode } from 'react';

/** A figure: its number in the order of work, its title, its drawing, and the rows with its numbers. */
export function FigureFrame({
  number,
  id,
  title,
  drawing,
  children,
}: {
  number: number;
  id: string;
  title: string;
  drawing: ReactNode;
  children: ReactNode;
}) {
  return (
    <section
      id={`figure-${id}`}
      aria-labelledby={`figure-${id}-title`}
      className="flex w-[296px] shrink-0 flex-col border-r border-rule pt-2"
    >
      <h3
        id={`figure-${id}-title`}
        className="mb-1 flex items-baseline gap-2 px-3.5 font-semibold outline-none focus-visible:text-now"
        tabIndex={-1}
      >
        <span className="digits text-xs font-normal text-ink-soft">{number}</span>
        {title}
      </h3>
      <div className="shrink-0 px-3.5">{drawing}</div>
      <div className="mt-1 min-h-0 overflow-y-auto px-3.5 pb-2">{children}</div>
    </section>
  );
}
