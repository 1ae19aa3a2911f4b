import { type ReactNode, useCallback, useRef, useState } from 'react';
import { useDismiss } from './useDismiss.ts';

/** A button that opens a small sheet beside it; Escape and a press anywhere else close it. */
export function Menu({
  label,
  title,
  className,
  side,
  children,
}: {
  label: ReactNode;
  title?: string;
  /** How the button looks. */
  className: string;
  /** Whether the sheet opens over or under the button. */
  side: 'over' | 'under';
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const menu = useRef<HTMLDivElement>(null);
  const close = useCallback(() => setOpen(false), []);
  useDismiss(menu, open, close);
  return (
    <div ref={menu} className="relative">
      <button type="button" aria-expanded={open} title={title} className={className} onClick={() => setOpen(!open)}>
        {label}
      </button>
      {open && (
        <div
          className={`absolute left-0 z-30 border border-ink bg-sheet px-3 py-2 whitespace-nowrap ${side === 'over' ? 'bottom-full mb-1' : 'top-full mt-1'}`}
        >
          {children}
        </div>
      )}
    </div>
  );
}
