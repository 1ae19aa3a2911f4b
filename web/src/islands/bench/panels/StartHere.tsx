import { Start } from '../../start/Start.tsx';

/** Start of an empty project, beside a default tuning that is driven already and saved with the first change. */
export function StartHere({ project, unit }: { project: string; unit: 'px' | 'm' }) {
  return (
    <section aria-label="Start">
      <Start project={{ id: project, unit }} imported={() => window.location.reload()} isNarrow />
      <p className="mt-3 border-t border-rule pt-2 text-xs text-ink-soft">Or drive this one: it is saved as soon as you change a number.</p>
    </section>
  );
}
