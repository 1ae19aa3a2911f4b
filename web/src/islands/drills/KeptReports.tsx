import { useStore } from '@nanostores/react';
import { useEffect, useState } from 'react';
import { useDrills } from './drillsWork.ts';
import { countsOf, type KeptReport, keepReport, keptReports } from './reports.ts';
import { useReport } from './useReport.ts';

/** Reports that are shown, the newest. */
const SHOWN = 8;

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** The reports that are kept of this tuning: one that is picked stands where the last revision does. */
export function KeptReports({ setProblem }: { setProblem(why: string | null): void }) {
  const { work, $against } = useDrills();
  const against = useStore($against);
  const report = useReport();
  const [kept, setKept] = useState<readonly KeptReport[]>([]);
  const { id } = work.opening.tuning;
  useEffect(() => {
    let current = true;
    void keptReports(id).then((found) => current && setKept(found));
    return () => {
      current = false;
    };
  }, [id]);
  const keep = async () => {
    const current = report();
    if (!current) return;
    const answer = await keepReport(current);
    if ('why' in answer) setProblem(answer.why);
    else setKept((all) => [answer, ...all]);
  };
  return (
    <section aria-label="Saved reports" className="no-print border-t border-rule pt-2">
      <h2 className="rubric">Saved reports</h2>
      <ul>
        {kept.slice(0, SHOWN).map((one) => {
          const { met, missed } = countsOf(one);
          const isPicked = one.id === against?.id;
          return (
            <li key={one.id}>
              <button
                type="button"
                aria-pressed={isPicked}
                title={`${met} of ${met + missed} targets met: ${one.targets.name}, on ${one.ground.name}, core ${one.core}. ${isPicked ? 'Compares with the last revision again' : 'Compares with this report'}`}
                className={`flex min-h-6 w-full items-baseline justify-between gap-2 text-left hover:underline ${isPicked ? 'text-other' : ''}`}
                onClick={() => $against.set(isPicked ? null : one)}
              >
                <span className="truncate">
                  {isPicked && <span aria-hidden="true">◄ </span>}
                  rev <span className="digits">{one.tuning.revision}</span>
                  {one.changedSince && '+'} <span className="text-xs text-ink-soft">{day.format(new Date(one.createdAt))}</span>
                </span>
                <span className={`digits shrink-0 text-xs ${missed > 0 ? 'text-now' : ''}`}>
                  {met} of {met + missed}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      <button
        type="button"
        className="action min-h-6"
        title="With its revision, ground, targets and core version"
        onClick={() => void keep()}
      >
        Save this report
      </button>
    </section>
  );
}
