import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Tape } from '../core/src/tape/tape.ts';
import { parametersWith } from '../core/src/testing/drive.ts';
import { asScript, tape, tunings, walled } from '../core/src/testing/everyWay.ts';
import { replayAll, traceKeys } from '../core/src/testing/replayAll.ts';
import { longTunings, middleOf, tenMinutes } from '../core/src/testing/tenMinutes.ts';
import { openBrowser } from './browser.ts';

let browser: Browser;
let script: string;
beforeAll(async () => {
  browser = await openBrowser();
  script = await asScript();
});
afterAll(() => browser.close());

it.each(tunings)('Chromium comes to the same states as Node, bit for bit (%s)', async (_, values) => {
  const parameters = parametersWith(values);
  const page = await browser.newPage();
  const call = `${script}; core.replayAll(${JSON.stringify(parameters)}, ${JSON.stringify(walled)}, ${JSON.stringify(tape)})`;
  const hashes = await page.evaluate(call);
  await page.close();
  expect(hashes).toHaveLength(6);
  expect(hashes).toEqual(replayAll(parameters, walled, tape));
});

it.each(longTunings)('Chromium drives ten minutes and a minute cut from their middle as Node does, bit for bit (%s)', async (_, values) => {
  const parameters = parametersWith(values);
  const page = await browser.newPage();
  await page.evaluate(`${script}; globalThis.core = core; 0`);
  const keys = (one: Tape) =>
    page.evaluate(`core.traceKeys(${JSON.stringify(parameters)}, ${JSON.stringify(walled)}, ${JSON.stringify(one)})`);
  const whole = tenMinutes(71);
  expect(await keys(whole)).toEqual(traceKeys(parameters, walled, whole));
  const middle = middleOf(whole, parameters);
  expect(await keys(middle)).toEqual(traceKeys(parameters, walled, middle));
  await page.close();
});
