import { Start } from '../../start/Start.tsx';

/** What an empty project begins with, beside a tuning of defaults that is driven already: it is saved once a number is changed. */
export function StartHere({ project, unit }: { project: string; unit: 'px' | 'm' }) {
  return (
    <section aria-label="Start">
      <Start project={{ id: project, unit }} imported={() => window.location.reload()} isNarrow />
      <p className="mt-3 border-t border-rule pt-2 text-xs text-ink-soft">Or drive this one: it is saved as soon as you change a number.</p>
    </section>
  );
}
