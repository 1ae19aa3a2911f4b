import { type ReactNode, useCallback, useRef, useState } from 'react';
import { useDismiss } from './useDismiss.ts';

/** A button that opens a small sheet beside it; Escape and a press anywhere else close it. */
export function Menu({
  label,
  title,
  name,
  className,
  side,
  edge = 'left',
  children,
}: {
  label: ReactNode;
  /** Its name for assistive technology, where the label is a drawing. */
  name?: string;
  title?: string;
  /** How the button looks. */
  className: string;
  /** Side of the button on which the sheet opens. */
  side: 'over' | 'under';
  /** The edge of the button that the sheet is flush with. */
  edge?: 'left' | 'right';
  /** Content of the sheet; a function gets a callback that closes it. */
  children: ReactNode | ((close: () => void) => ReactNode);
}) {
  const [open, setOpen] = useState(false);
  const menu = useRef<HTMLDivElement>(null);
  const close = useCallback(() => setOpen(false), []);
  useDismiss(menu, open, close);
  return (
    <div ref={menu} className="relative">
      <button type="button" aria-label={name} aria-expanded={open} title={title} className={className} onClick={() => setOpen(!open)}>
        {label}
      </button>
      {open && (
        <div
          className={`absolute ${edge === 'left' ? 'left-0' : 'right-0'} z-30 border border-ink bg-sheet px-3 py-2 whitespace-nowrap ${side === 'over' ? 'bottom-full mb-1' : 'top-full mt-1'}`}
        >
          {typeof children === 'function' ? children(close) : children}
        </div>
      )}
    </div>
  );
}
