import { specs } from '@zygopod/core';
import {
  Children,
  type ComponentType,
  Fragment,
  isValidElement,
  type ReactNode,
  useCallback,
  useLayoutEffect,
  useRef,
  useState,
} from 'react';
import { useDismiss } from '../../controls/useDismiss.ts';
import { ChoiceField, FlagField } from '../fields/ChoiceField.tsx';
import { NumberField } from '../fields/NumberField.tsx';
import { SetField } from '../fields/SetField.tsx';
import { useFigures } from './openFigure.ts';

/** Rows that a figure shows without being opened. */
const SHOWN = 4;

const rowTypes = new Set<unknown>([ChoiceField, FlagField, NumberField, SetField] satisfies ComponentType<never>[]);

/** The rows among what a figure holds, in order: what else it shows comes only with all of them. */
function rowsAmong(children: ReactNode): ReactNode[] {
  return Children.toArray(children).flatMap((child): ReactNode[] => {
    if (!isValidElement<{ children?: ReactNode }>(child)) return [];
    if (child.type === Fragment) return rowsAmong(child.props.children);
    return rowTypes.has(child.type) ? [child] : [];
  });
}

/** How many rows the catalogue has for a figure. */
const countOf = (id: string) => [...specs.values()].filter(({ figure }) => figure === id).length;

/** A figure: its number in the order of work, its title, its drawing, and its four first rows; all of them open upwards. */
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
  const { open, setOpen, unused } = useFigures();
  const isOpen = open === id;
  const section = useRef<HTMLElement>(null);
  const left = useLeft(section, isOpen);
  const close = useCallback(() => setOpen(null), [setOpen]);
  useDismiss(section, isOpen, close);
  const rows = rowsAmong(children);
  const isPale = unused.has(id) && !isOpen;
  return (
    <section
      id={`figure-${id}`}
      ref={section}
      aria-labelledby={`figure-${id}-title`}
      data-unused={unused.has(id) || undefined}
      className="w-[296px] shrink-0 border-r border-rule"
    >
      <div
        className={
          isOpen
            ? 'fixed bottom-0 z-20 flex max-h-[calc(100vh-48px)] w-[296px] flex-col overflow-y-auto border border-ink bg-paper pt-2 pb-2'
            : `flex h-full flex-col overflow-hidden pt-2 ${isPale ? 'opacity-60' : ''}`
        }
        style={isOpen ? { left } : undefined}
      >
        <div className="mb-1 flex items-baseline gap-2 px-3.5">
          <h3
            id={`figure-${id}-title`}
            className="flex items-baseline gap-2 font-semibold outline-none focus-visible:text-now"
            tabIndex={-1}
          >
            <span className="digits text-xs font-normal text-ink-soft">{number}</span>
            {title}
          </h3>
          <button
            type="button"
            data-all
            aria-expanded={isOpen}
            className="deed ml-auto min-h-6 text-xs font-normal"
            title={isOpen ? 'Back to the four first rows (Esc)' : `All numbers of ${title.toLowerCase()}`}
            onClick={() => setOpen(isOpen ? null : id)}
          >
            {isOpen ? 'fewer' : `all ${countOf(id)}`}
          </button>
        </div>
        <div className="shrink-0 px-3.5">{drawing}</div>
        <div className="mt-1 shrink-0 px-3.5 pb-2">{isOpen ? children : rows.slice(0, SHOWN)}</div>
      </div>
    </section>
  );
}

/** Where an opened figure stands: over its place in the row, within the window. */
function useLeft(section: { current: HTMLElement | null }, isOpen: boolean): number {
  const [left, setLeft] = useState(0);
  useLayoutEffect(() => {
    if (!isOpen) return;
    const measure = () => {
      const box = section.current?.getBoundingClientRect();
      if (box) setLeft(Math.max(0, Math.min(window.innerWidth - box.width, box.left)));
    };
    measure();
    window.addEventListener('resize', measure);
    window.addEventListener('scroll', measure, true);
    return () => {
      window.removeEventListener('resize', measure);
      window.removeEventListener('scroll', measure, true);
    };
  }, [section, isOpen]);
  return left;
}
