import { type Fault, faultText, markOf, readGround, readJson, readTape, readTuning } from '@zygopod/core';
import { readText } from '../files.ts';
import { FINDING, GOOD } from '../misuse.ts';

const readers = { 'zygopod/tuning': readTuning, 'zygopod/ground': readGround, 'zygopod/tape': readTape };

/** Every fault of a file's text, whatever format it says it is. */
function faultsIn(text: string): Fault[] {
  const json = readJson(text);
  if (!json.ok) return json.faults;
  const mark = markOf(json.value);
  const reader = readers[mark as keyof typeof readers];
  if (!reader) return [{ path: 'format', found: JSON.stringify(mark) ?? 'nothing', expected: `one of ${Object.keys(readers).join(', ')}` }];
  const reading = reader(json.value);
  return reading.ok ? [] : reading.faults;
}

/** Validates files; exit 1 when one has errors. */
export function check(paths: string[], options: { json?: boolean }): number {
  const results = paths.map((file) => ({ file, faults: faultsIn(readText(file)) }));
  if (options.json) {
    const answers = results.map(({ file, faults }) => ({
      ...(paths.length > 1 ? { file } : {}),
      ok: faults.length === 0,
      errors: faults.map((fault) => ({ path: fault.path, message: faultText(fault) })),
      snags: [],
    }));
    process.stdout.write(`${JSON.stringify(paths.length > 1 ? answers : answers[0], null, 2)}\n`);
  } else {
    for (const { file, faults } of results)
      process.stdout.write(faults.length === 0 ? `${file}: good\n` : faults.map((fault) => `${file}: ${faultText(fault)}\n`).join(''));
  }
  return results.some(({ faults }) => faults.length > 0) ? FINDING : GOOD;
}
