import { type Fault, faultText, largest, markOf, printable, readGround, readJson, readTape, readTuning, shown } from '@zygopod/core';
import { readText } from '../files.ts';
import { FINDING, GOOD } from '../misuse.ts';

const readers = { 'zygopod/tuning': readTuning, 'zygopod/ground': readGround, 'zygopod/tape': readTape };

/** Every fault of a file's text, whatever format it says it is. */
function faultsIn(text: string): Fault[] {
  const json = readJson(text);
  if (!json.ok) return json.faults;
  const mark = markOf(json.value);
  const reader = Object.hasOwn(readers, String(mark)) ? readers[mark as keyof typeof readers] : undefined;
  if (!reader) return [{ path: 'format', found: shown(mark), expected: `one of ${Object.keys(readers).join(', ')}` }];
  const most = largest[String(mark).split('/')[1] as keyof typeof largest];
  const bytes = Buffer.byteLength(text);
  if (bytes > most) return [{ path: '', found: `${bytes} bytes`, expected: `at most ${most}` }];
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
    process.stdout.write(`${printable(JSON.stringify(paths.length > 1 ? answers : answers[0], null, 2))}\n`);
  } else {
    for (const { file, faults } of results)
      process.stdout.write(
        faults.length === 0 ? `${printable(file)}: good\n` : faults.map((fault) => `${printable(file)}: ${faultText(fault)}\n`).join(''),
      );
  }
  return results.some(({ faults }) => faults.length > 0) ? FINDING : GOOD;
}
