import { describe, expect, it } from 'vitest';
import { junitXml } from '../../formats/junit.ts';
import { judgeTargets, keepAsTargets } from '../../targets/targets.ts';
import { valueInRange } from '../../testing/anyValue.ts';
import { seeds } from '../../testing/campaign.ts';
import { parametersWith } from '../../testing/drive.ts';
import { sequence } from '../../testing/sequence.ts';
import { sound } from '../../testing/soundTuning.ts';
import { type Parameters, specs } from '../../tuning/catalogue/catalogue.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { resolveTuning, withValue } from '../../tuning/tuning.ts';
import { absencesOf, type DrillResult, metricsOf, runDrills } from './run.ts';

/** Each metric that a drill is to give has a value, or a reason for having none; it gives no other. */
function complete(results: readonly DrillResult[], what: string): void {
  for (const { drill, metrics, absent } of results) {
    expect([...Object.keys(metrics), ...Object.keys(absent)].toSorted(), `${what}, ${drill.name}`).toEqual([...drill.gives].toSorted());
    for (const { why } of Object.values(absent)) expect(why).not.toBe('');
  }
}

describe('metrics without a value', () => {
  it('of any tuning say why', () => {
    for (const seed of seeds(12, 300)) {
      const next = sequence(seed * 2_750_159);
      let { file } = sound(seed);
      for (const [path, spec] of specs) {
        const value: FileValue | undefined = next() < 0.1 && path !== 'clock.hz' ? valueInRange(spec, next) : undefined;
        const changed = value === undefined ? file : withValue(file, path, value);
        if (resolveTuning(changed).ok) file = changed;
      }
      const read = resolveTuning(file);
      if (read.ok) complete([...runDrills(read.value.parameters)], `seed ${seed}`);
    }
  });

  it('are only those that do not apply, where a tuning is sound', () => {
    for (const seed of seeds(30, 600)) {
      const results = [...runDrills(sound(seed).parameters)];
      complete(results, `seed ${seed}`);
      const unmeasured = Object.entries(absencesOf(results)).filter(([, { applies }]) => applies);
      expect(unmeasured, `seed ${seed}: ${JSON.stringify(sound(seed).file)}`).toEqual([]);
    }
  });

  const cases: [string, Record<string, FileValue>, string, RegExp][] = [
    ['never up to speed', { 'ramp.accelerate': 0.01 }, 'riseTime', /reach full speed/],
    ['never at rest', { 'ramp.decelerate': 0.001 }, 'stopDistance', /come to rest/],
    ['a bar that outlasts the drill', { 'stamina.enabled': true, 'stamina.drain': 0.01 }, 'sprintTime', /run out/],
    ['through no gap', { 'contact.skin': 10, 'body.radius': 1 }, 'tightestGap', /none of the gaps/],
  ];
  it.each(cases)('fail their target, with the reason (%s)', (_, values, metric, why) => {
    const results = [...runDrills(parametersWith(values))];
    const [judged] = judgeTargets([{ metric, max: 1e6 }], metricsOf(results), absencesOf(results));
    expect(judged).toMatchObject({ ok: false, value: null, why: expect.stringMatching(why) });
    const xml = junitXml(
      'Any',
      results.map(({ drill: { name }, metrics, absent }) => ({ name, metrics, absent })),
      [judged as never],
      1,
    );
    expect(xml).toMatch(/failures="1" skipped="0"/);
    expect(xml).toMatch(why);
  });

  it('pass over their target where the tuning has nothing for them, with the reason', () => {
    const results = [...runDrills(parametersWith({ 'stamina.enabled': true, 'stamina.drain': 0 }))];
    const judged = judgeTargets(
      [
        { metric: 'recoverTime', max: 1 },
        { metric: 'stepTime', max: 1 },
      ],
      metricsOf(results),
      absencesOf(results),
    );
    expect(judged.map(({ ok, why }) => [ok, why])).toEqual([
      [null, 'the bar never empties'],
      [null, 'needs grid steps'],
    ]);
  });

  it('are missed as soon as what was measured for a target cannot be any more', () => {
    const able: Parameters = parametersWith({ 'stamina.enabled': true });
    const targets = keepAsTargets(metricsOf([...runDrills(able)]));
    // It stops so slowly that it never stands, and regains standing only.
    const slow = parametersWith({ 'stamina.enabled': true, 'stamina.regainWhile': 'standing', 'ramp.decelerate': 0.01 });
    const results = [...runDrills(slow)];
    const judged = judgeTargets(targets, metricsOf(results), absencesOf(results));
    expect(judged.find(({ metric }) => metric === 'recoverTime')).toMatchObject({ ok: false, value: null });
    expect(judged.find(({ metric }) => metric === 'stopTime')).toMatchObject({ ok: false, value: null });
  });
});
