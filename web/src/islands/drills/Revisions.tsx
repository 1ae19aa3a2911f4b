import { useStore } from '@nanostores/react';
import { judgeTargets, type Metrics, metricKey, readTuning, shortNumber, type TuningFile } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { fetchDocument } from '../work/documentActions.ts';
import { askServer } from '../work/server.ts';
import { PATIENCE, useDrills } from './drillsWork.ts';

/** Revisions that are drilled at most, the newest. */
const MOST = 12;
const WIDTH = 214;
const HEIGHT = 56;
const ROOM = 8;

/** The files of the newest revisions of a tuning, oldest first; those that cannot be fetched are left out. */
async function newest(id: string): Promise<{ number: number; file: TuningFile }[]> {
  const page = await askServer<{ items: { number: number }[] }>('GET', `/api/v1/tunings/${id}/revisions?limit=${MOST}`);
  if ('why' in page) return [];
  const found = await Promise.all(
    page.body.items.slice(0, MOST).map(async ({ number }) => {
      const kept = await fetchDocument('tunings', id, number);
      const read = 'file' in kept ? readTuning(kept.file) : null;
      return read?.ok ? { number, file: read.value.file } : null;
    }),
  );
  return found.filter((one) => one !== null).sort((a, b) => a.number - b.number);
}

/** A metric over the revisions of the tuning, and now, over its band. */
export function Revisions({ drill, metric, now }: { drill: string; metric: keyof Metrics; now: number | null }) {
  const { work, before, $judging } = useDrills();
  const head = useStore(work.saving.$head);
  const { set } = useStore($judging);
  const [past, setPast] = useState<{ number: number; value: number | null }[]>([]);
  const { id } = work.opening.tuning;
  // biome-ignore lint/correctness/useExhaustiveDependencies: drilled again for another revision
  useEffect(() => {
    let current = true;
    void (async () => {
      const revisions = await newest(id);
      const files = revisions.map(({ file }) => file);
      const metrics = await before.desk.call((remote) => remote.metrics(files, drill, work.drive.world.ground), PATIENCE);
      if (current) setPast(revisions.map(({ number }, i) => ({ number, value: metrics[i]?.[metric] ?? null })));
    })().catch(() => undefined);
    return () => {
      current = false;
    };
  }, [id, head, drill, metric, before, work]);
  const all = [...past, { number: null, value: now }].flatMap(({ number, value }) => (value === null ? [] : [{ number, value }]));
  if (past.length === 0 || all.length < 2) return null;
  const target = set.targets.find((one) => metricKey(one.metric, one.at) === metric) ?? null;
  const top = Math.max(1e-9, ...all.map(({ value }) => value), ...(target?.max === undefined ? [] : [target.max])) * 1.1;
  const x = (i: number) => ROOM + (i / (all.length - 1)) * (WIDTH - 2 * ROOM);
  const y = (value: number) => HEIGHT - ROOM - (value / top) * (HEIGHT - 2 * ROOM);
  const isOut = (value: number) => target !== null && judgeTargets([target], { [metric]: value })[0]?.ok === false;
  const [ceiling, floor] = [y(Math.min(top, target?.max ?? top)), y(target?.min ?? 0)];
  const wedge = (px: number, py: number) => `${px},${py - 5} ${px + 5},${py + 4} ${px - 5},${py + 4}`;
  return (
    <section aria-label="Over the revisions" className="border-t border-rule pt-2">
      <h3 className="rubric">Over the revisions</h3>
      <svg
        role="img"
        aria-label={`From ${shortNumber(all[0]?.value ?? 0)} to ${shortNumber(now ?? 0)}`}
        width={WIDTH}
        height={HEIGHT}
        className="block"
      >
        {target && (
          <rect x={ROOM} width={WIDTH - 2 * ROOM} y={ceiling} height={Math.max(0, floor - ceiling)} fill="var(--route)" opacity="0.14" />
        )}
        <polyline points={all.map(({ value }, i) => `${x(i)},${y(value)}`).join(' ')} fill="none" stroke="var(--ink)" strokeWidth="1.3" />
        {all.map(({ number, value }, i) =>
          isOut(value) ? (
            <polygon key={number ?? 'now'} points={wedge(x(i), y(value))} fill="var(--sheet)" stroke="var(--now)" strokeWidth="1.8" />
          ) : (
            <circle key={number ?? 'now'} cx={x(i)} cy={y(value)} r="3" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
          ),
        )}
      </svg>
      <p className="digits flex justify-between text-xs text-ink-soft">
        <span>rev {past[0]?.number}</span>
        <span className="text-now">now</span>
      </p>
    </section>
  );
}
