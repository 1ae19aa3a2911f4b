import { useStore } from '@nanostores/react';
import { type Figure, figureTitles, matters, rowsOf, whenWords } from '@zygopod/core';
import { Fragment, type ReactNode, useCallback, useLayoutEffect, useRef, useState } from 'react';
import { useDismiss } from '../controls/useDismiss.ts';
import type { FieldModel } from '../fields/model.ts';
import { NumberField } from '../fields/NumberField.tsx';
import { ParameterField } from '../fields/ParameterField.tsx';
import { useTuning } from '../tuning/context.ts';
import { useFigures } from './openFigure.ts';

/** Rows that a figure shows without being opened. */
const SHOWN = 4;

/** A figure's own content between the catalogue's rows, by the path of the row before it. */
type Between<T> = Readonly<Record<string, T>>;

/** The rows of a figure, those first that matter with the tuning at hand; opened, all of them in their order, with what belongs to them. */
function Rows({ id, isOpen, outcomes, more }: { id: Figure; isOpen: boolean; outcomes: Between<FieldModel[]>; more: Between<ReactNode> }) {
  const { parameters } = useStore(useTuning().editing.$tuning);
  const paths = rowsOf(id);
  const counts = (path: string) => matters(path, parameters);
  if (isOpen)
    return paths.map((path) => (
      <Fragment key={path}>
        {counts(path) ? (
          <ParameterField path={path} />
        ) : (
          <div className="opacity-75" title={`No effect now: it matters when ${whenWords(path)}.`} data-idle>
            <ParameterField path={path} />
          </div>
        )}
        {outcomes[path]?.map((model) => (
          <NumberField key={model.label} model={model} />
        ))}
        {more[path]}
      </Fragment>
    ));
  const first = [...paths.filter(counts), ...paths.filter((path) => !counts(path))];
  return first
    .flatMap((path) => [
      <ParameterField key={path} path={path} />,
      ...(outcomes[path] ?? []).map((model) => <NumberField key={model.label} model={model} />),
    ])
    .slice(0, SHOWN);
}

/** A figure: its number in the order of work, its title, its drawing, and its first rows of the catalogue; all of them open upwards. */
export function FigureFrame({
  number,
  id,
  drawing,
  outcomes = {},
  more = {},
}: {
  number: number;
  id: Figure;
  drawing: ReactNode;
  /** Numbers that follow from parameters, and set them. */
  outcomes?: Between<FieldModel[]>;
  /** Further content of the expanded figure. */
  more?: Between<ReactNode>;
}) {
  const title = figureTitles[id];
  const { open, setOpen, unused } = useFigures();
  const isOpen = open === id;
  const section = useRef<HTMLElement>(null);
  const left = useLeft(section, isOpen);
  const close = useCallback(() => setOpen(null), [setOpen]);
  useDismiss(section, isOpen, close);
  const isPale = unused.has(id) && !isOpen;
  return (
    <section
      id={`figure-${id}`}
      ref={section}
      aria-labelledby={`figure-${id}-title`}
      data-unused={unused.has(id) || undefined}
      className="w-[280px] shrink-0 border-r border-rule @min-[780px]:w-[calc(100cqw/3)] @min-[1080px]:w-[25cqw] @min-[1400px]:w-[20cqw] @min-[1700px]:w-[296px]"
    >
      <div
        className={
          isOpen
            ? 'fixed bottom-0 z-20 flex max-h-[calc(100vh-48px)] w-[296px] flex-col overflow-y-auto border border-ink bg-paper pt-2 pb-2'
            : `flex h-full flex-col overflow-hidden ${isPale ? 'opacity-60' : ''}`
        }
        style={isOpen ? { left } : undefined}
      >
        <div className="flex items-baseline gap-2 px-3.5">
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
            className="action ml-auto min-h-6 text-xs font-normal"
            title={isOpen ? 'Back to the four first rows (Esc)' : `All numbers of ${title.toLowerCase()}`}
            onClick={() => setOpen(isOpen ? null : id)}
          >
            {isOpen ? 'fewer' : `all ${rowsOf(id).length}`}
          </button>
        </div>
        <div className={`shrink-0 px-3.5 ${isOpen ? '' : '[&>svg]:max-h-[94px]'}`}>{drawing}</div>
        <div className="shrink-0 px-3.5 pb-1">
          <Rows id={id} isOpen={isOpen} outcomes={outcomes} more={more} />
        </div>
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
