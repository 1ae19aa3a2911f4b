import { useStore } from '@nanostores/react';
import { shortNumber, type Target } from '@zygopod/core';
import { useTuning } from '../tuning/context.ts';

/** A band's ends as places, cut off at the drawing. */
function ends({ min, max }: Target, place: (value: number) => number, most: number): [number, number] {
  return [Math.min(most, place(min ?? 0)), Math.min(most, max === undefined ? most : place(max))];
}

/**
 * The targets of up to speed and of the stop, hatched where the drawing has the same outcome: how soon it is at walking speed, and, for a
 * steady rate, when it rests if it is to stop within so much (2·s/V after the hands are off).
 */
export function PaceBands({
  x,
  walkY,
  base,
  right,
  stopFrom,
  walk,
  isSteady,
}: {
  x(seconds: number): number;
  walkY: number;
  base: number;
  right: number;
  stopFrom: number;
  walk: number;
  isSteady: boolean;
}) {
  const targets = useStore(useTuning().$targets);
  const rise = targets.find(({ metric }) => metric === 'riseTime');
  const stop = isSteady && walk > 0 ? targets.find(({ metric }) => metric === 'stopDistance') : undefined;
  const bar = (target: Target, [from, to]: [number, number], y: number, words: string) => (
    <g data-target={target.metric}>
      <title>{`${words} ${target.min === undefined ? 'at most' : `${shortNumber(target.min)} to`} ${target.max === undefined ? 'more' : shortNumber(target.max)}`}</title>
      <rect x={from} y={y - 3} width={Math.max(1, to - from)} height="6" className="fill-route" opacity="0.28" />
      <line x1={from} x2={from} y1={y - 4} y2={y + 4} className="stroke-route" />
      <line x1={to} x2={to} y1={y - 4} y2={y + 4} className="stroke-route" />
    </g>
  );
  return (
    <>
      {rise && bar(rise, ends(rise, x, right), walkY, 'Target: up to walk in')}
      {stop &&
        bar(
          stop,
          ends(stop, (way) => x(stopFrom + (2 * way) / walk), right),
          base,
          'Target: stops within',
        )}
    </>
  );
}
