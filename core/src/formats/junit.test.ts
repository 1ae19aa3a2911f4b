import { describe, expect, it } from 'vitest';
import { judgeTargets, type Target } from '../targets/targets.ts';
import { junitXml } from './junit.ts';

const drills = [
  { name: 'hard-stop', metrics: { stopDistance: 7 }, absent: {} },
  { name: 'wall-graze', metrics: { 'slideKept(45)': 0.7 }, absent: {} },
];
const metrics = { stopDistance: 7, 'slideKept(45)': 0.7 };
const xmlOf = (targets: Target[], name = 'Boots') => junitXml(name, drills, judgeTargets(targets, metrics), 0.25);

/** The open elements at each place of an XML text; throws if one is closed that isn't open. */
function wellFormed(xml: string): string[] {
  const open: string[] = [];
  const seen: string[] = [];
  for (const [, close, name, empty] of xml.matchAll(/<(\/?)([a-z]+)(?:\s+[a-z]+="[^"<>]*")*\s*(\/?)>/g)) {
    if (close) expect(open.pop()).toBe(name);
    else if (!empty) open.push(name as string);
    if (!close) seen.push(name as string);
  }
  expect(open).toEqual([]);
  return seen;
}

describe('JUnit XML', () => {
  it('has a case a target, with the drill that measures it; failures, errors and what was not measured are counted', () => {
    const xml = xmlOf([
      { metric: 'stopDistance', max: 9 },
      { metric: 'slideKept', at: 45, min: 0.9 },
      { metric: 'stepTime', max: 1 },
      { metric: 'nothing', max: 1 },
    ]);
    expect(wellFormed(xml)).toEqual([
      'testsuites',
      'testsuite',
      'testcase',
      'testcase',
      'failure',
      'testcase',
      'skipped',
      'testcase',
      'error',
    ]);
    expect(xml).toContain('tests="4" failures="1" skipped="1" errors="1" time="0.250"');
    expect(xml).toContain('<testcase classname="wall-graze" name="slideKept(45)" time="0">');
    expect(xml).toContain('<failure message="Slide keeps at 45°: 0.7, expected 0.9 to ∞"/>');
  });

  it('stays well formed whatever a tuning is called', () => {
    for (const name of ['a < b & "c" > d', ']]>', 'tab\there', 'null\u0000bell\u0007', '雨靴', '\uffff']) {
      const xml = xmlOf([{ metric: 'stopDistance', max: 1 }], name);
      expect(wellFormed(xml), name).toContain('failure');
      // biome-ignore lint/suspicious/noControlCharactersInRegex: they are what may not be there
      expect(xml, name).not.toMatch(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\uffff]/);
    }
  });

  it('of no targets is a suite without cases', () => {
    expect(wellFormed(xmlOf([]))).toEqual(['testsuites', 'testsuite']);
  });
});
