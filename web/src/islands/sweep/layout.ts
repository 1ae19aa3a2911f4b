import { type MetricKey, metricKey, type Target } from '@zygopod/core';

/** Room around the chart for its axes, px. */
export const MARGIN = { left: 66, right: 18, top: 14, bottom: 46 };

/** The band of a metric in a target set; null if it has none. */
export const bandOf = (targets: readonly Target[], key: MetricKey): Target | null =>
  targets.find(({ metric, at }) => metricKey(metric, at) === key) ?? null;
