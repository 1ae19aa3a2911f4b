import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { parametersWith } from '../core/src/testing/drive.ts';
import { asScript, tape, tunings, walled } from '../core/src/testing/everyWay.ts';
import { replayAll } from '../core/src/testing/replayAll.ts';
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
