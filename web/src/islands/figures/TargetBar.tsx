import { useStore } from '@nanostores/react';
import { shortNumber, type Target } from '@zygopod/core';
import { useTuning } from '../tuning/context.ts';

/** The target of a metric, if it has one; for metrics at angles, the target at one angle. */
export function useTarget(metric: string): Target | null {
  const targets = useStore(useTuning().$targets);
  return targets.find((one) => one.metric === metric) ?? null;
}

/** The targets of a metric that is measured at angles. */
export const useTargetsAt = (metric: string): readonly Target[] =>
  useStore(useTuning().$targets).filter((one) => one.metric === metric && one.at !== undefined);

/**
 * The band of a target on a drawing that has the same outcome: along a level (across), or upright at a place. `place` is where a value lies
 * on the drawing, `edge` its end, where an end that is open lies, too.
 */
export function TargetBar({
  target,
  words,
  level,
  place,
  edge,
  isUpright = false,
}: {
  target: Target;
  words: string;
  level: number;
  place(value: number): number;
  edge: number;
  isUpright?: boolean;
}) {
  const { min, max } = target;
  const held = (at: number) => (isUpright ? Math.max(edge, at) : Math.min(edge, at));
  const [a, b] = [held(place(min ?? 0)), max === undefined ? edge : held(place(max))];
  const [from, to] = [Math.min(a, b), Math.max(a, b)];
  const ends = (at: number) =>
    isUpright ? { x1: level - 4, x2: level + 4, y1: at, y2: at } : { x1: at, x2: at, y1: level - 4, y2: level + 4 };
  const box = isUpright
    ? { x: level - 3, y: from, width: 6, height: Math.max(1, to - from) }
    : { x: from, y: level - 3, width: Math.max(1, to - from), height: 6 };
  return (
    <g data-target={target.metric}>
      <title>{`Target: ${words} ${min === undefined ? 'at most' : `${shortNumber(min)} to`} ${max === undefined ? 'more' : shortNumber(max)}`}</title>
      <rect {...box} className="fill-route" opacity="0.28" />
      <line {...ends(from)} className="stroke-route" />
      <line {...ends(to)} className="stroke-route" />
    </g>
  );
}
