import type { Absences } from '../measure/drills/absences.ts';
import { type Metrics, metricKey, metricSpecOf } from '../measure/metricSpecs.ts';
import type { JudgedTarget } from '../targets/targets.ts';
import { inXml } from './escaping.ts';

/** A drill as far as a report of its targets needs it. */
interface Drilled {
  name: string;
  metrics: Metrics;
  absent: Absences;
}

/** The name of the drill that measures a metric. */
function drillOf(drills: readonly Drilled[], key: string): string {
  const measures = drills.find(({ metrics }) => Object.hasOwn(metrics, key));
  return (measures ?? drills.find(({ absent }) => absent[key]?.applies))?.name ?? 'none';
}

/**
 * Judged targets as JUnit XML for build servers: a test case per target. A missed one is a failure with value and band, or with the reason why it
 * could not be measured; one that does not apply is skipped. `seconds` is the duration of the drills.
 */
export function junitXml(suite: string, drills: readonly Drilled[], targets: readonly JudgedTarget[], seconds: number): string {
  const failures = targets.filter(({ ok }) => ok === false).length;
  const errors = targets.filter(({ ok, fault }) => ok === null && fault !== null).length;
  const skipped = targets.filter(({ ok }) => ok === null).length - errors;
  const cases = targets.map(({ metric, at, min, max, value, ok, why, fault }) => {
    const key = metricKey(metric, at);
    const head = `    <testcase classname="${inXml(drillOf(drills, key))}" name="${inXml(key)}" time="0"`;
    if (ok) return `${head}/>`;
    if (ok === null && fault !== null) return `${head}>\n      <error message="${inXml(fault)}"/>\n    </testcase>`;
    if (ok === null) return `${head}>\n      <skipped message="${inXml(why ?? 'not measured')}"/>\n    </testcase>`;
    const band = `${min ?? '-∞'} to ${max ?? '∞'}`;
    const message = `${metricSpecOf(key).words}: ${value ?? `not measured, ${why}`}, expected ${band}`;
    return `${head}>\n      <failure message="${inXml(message)}"/>\n    </testcase>`;
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<testsuites tests="${targets.length}" failures="${failures}" skipped="${skipped}" errors="${errors}" time="${seconds.toFixed(3)}">`,
    `  <testsuite name="${inXml(suite)}" tests="${targets.length}" failures="${failures}" skipped="${skipped}" errors="${errors}" time="${seconds.toFixed(3)}">`,
    ...cases,
    '  </testsuite>',
    '</testsuites>',
    '',
  ].join('\n');
}
