import { useStore } from '@nanostores/react';
import { useEffect, useState } from 'react';
import type { Pictures, Standing as Stands } from './pictures.ts';
import type { ShelfItem } from './shelfWork.ts';

/** The most targets that a full bar stands for. */
const FULL = 20;

/** How a tuning stands against its targets, as a bar of those met and those missed, and how many faults it has. */
export function Standing({ item, pictures, isSeen }: { item: ShelfItem; pictures: Pictures; isSeen: boolean }) {
  const [stands, setStands] = useState<Stands | null>(null);
  const stamp = useStore(pictures.$stamp);
  // biome-ignore lint/correctness/useExhaustiveDependencies: judged again when anything has changed
  useEffect(() => {
    let current = true;
    if (isSeen)
      pictures
        .standing(item)
        .then((found) => current && setStands(found))
        .catch(() => undefined);
    return () => {
      current = false;
    };
  }, [item, stamp, isSeen, pictures]);
  if (!stands) return <div className="text-xs text-ink-soft">{isSeen ? '…' : ''}</div>;
  const { met, missed, faults, by } = stands;
  const total = met + missed;
  return (
    <div className="flex justify-between gap-4" data-testid="standing" data-met={met} data-missed={missed} data-faults={faults}>
      <div className="w-40 text-xs text-ink-soft" title={by ? `Judged by ${by}` : 'There are no targets'}>
        {total > 0 ? (
          <>
            in band <span className="digits text-sm text-ink">{met}</span>
            <div className="mt-1 flex h-2.5" style={{ width: `${Math.min(1, total / FULL) * 100}%` }}>
              <span className="hatched border border-route/50" style={{ width: `${(met / total) * 100}%` }} />
              <span className="bg-now" style={{ width: `${(missed / total) * 100}%` }} />
            </div>
            {missed > 0 && <span className="digits text-now">▲ {missed} out</span>}
          </>
        ) : (
          'no target applies'
        )}
      </div>
      <span className={`shrink-0 ${faults > 0 ? 'font-semibold text-now' : 'text-ink-soft'}`}>
        {faults > 0 ? `▲ ${faults} ${faults === 1 ? 'fault' : 'faults'}` : 'no faults'}
      </span>
    </div>
  );
}
