import { TargetBar, useTarget } from './TargetBar.tsx';

/**
 * The targets of up to speed and of the stop where the drawing has the same outcome: how soon it is at walking speed, and, for a steady
 * rate, when it rests if it is to stop within so much (2·s/V after the hands are off).
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
  const rise = useTarget('riseTime');
  const stop = useTarget('stopDistance');
  return (
    <>
      {rise && <TargetBar target={rise} words="reaches walk after" level={walkY} place={x} edge={right} />}
      {stop && isSteady && walk > 0 && (
        <TargetBar target={stop} words="stops within" level={base} place={(distance) => x(stopFrom + (2 * distance) / walk)} edge={right} />
      )}
    </>
  );
}
