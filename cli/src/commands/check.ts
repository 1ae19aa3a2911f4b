import {
  bySeverity,
  type Fault,
  faultText,
  type Ground,
  groundSnags,
  largest,
  markOf,
  printable,
  readGround,
  readJson,
  readTape,
  readTargets,
  readTuning,
  rerun,
  type Snag,
  shown,
  type Tape,
  type TargetSet,
  type Tuning,
  targetFaults,
  traceSnags,
  tuningSnags,
  wallSnags,
} from '@zygopod/core';
import { groundFile, readText, tapeFile } from '../files.ts';
import { FINDING, GOOD, Misuse } from '../misuse.ts';
import { snagLine } from './drill.ts';

const readers = { 'zygopod/tuning': readTuning, 'zygopod/ground': readGround, 'zygopod/tape': readTape, 'zygopod/targets': readTargets };

interface Checked {
  faults: Fault[];
  snags: Snag[];
}

/** Every fault of a file's text, whatever format it says it is; and the snags of what it holds, with the ground and the tape that it is judged with. */
function checked(text: string, ground?: Ground, tape?: Tape): Checked {
  const refuse = (...faults: Fault[]): Checked => ({ faults, snags: [] });
  const json = readJson(text);
  if (!json.ok) return refuse(...json.faults);
  const mark = markOf(json.value);
  const reader = Object.hasOwn(readers, String(mark)) ? readers[mark as keyof typeof readers] : undefined;
  if (!reader) return refuse({ path: 'format', found: shown(mark), expected: `one of ${Object.keys(readers).join(', ')}` });
  const kind = String(mark).split('/')[1] as keyof typeof largest;
  const most = largest[kind];
  const bytes = Buffer.byteLength(text);
  if (bytes > most) return refuse({ path: '', found: `${bytes} bytes`, expected: `at most ${most}` });
  const reading = reader(json.value);
  if (!reading.ok) return refuse(...reading.faults);
  if (mark === 'zygopod/targets') {
    const { targets } = reading.value as TargetSet;
    const odd = targetFaults(targets).flatMap((fault, i) =>
      fault ? [{ path: `targets.${i}`, found: fault, expected: 'targets that can be met' }] : [],
    );
    return { faults: odd, snags: [] };
  }
  if (mark === 'zygopod/ground') return { faults: [], snags: wallSnags(reading.value as Ground) };
  return { faults: [], snags: mark === 'zygopod/tuning' ? snagsOf(reading.value as Tuning, ground, tape) : [] };
}

function snagsOf(tuning: Tuning, ground?: Ground, tape?: Tape): Snag[] {
  const { parameters } = tuning;
  const driven = ground && tape ? rerun(tape, parameters, ground).trace : null;
  return bySeverity([
    ...tuningSnags(tuning, ground),
    ...(ground ? groundSnags(ground, parameters) : []),
    ...(driven && ground && tape ? traceSnags({ trace: driven, parameters, ground, tape }) : []),
  ]);
}

interface CheckOptions {
  json?: boolean;
  ground?: string;
  tape?: string;
}

/** Validates files and lists snags; exit 1 when one has errors. Tunings are judged with the ground and the tape, where they are given. */
export function check(paths: string[], options: CheckOptions): number {
  const ground = options.ground === undefined ? undefined : groundFile(options.ground);
  if (options.tape !== undefined && !ground) throw new Misuse('--tape: found without --ground, expected a ground to drive it on');
  const tape = options.tape === undefined ? undefined : tapeFile(options.tape);
  const results = paths.map((file) => ({ file, ...checked(readText(file), ground, tape) }));
  if (options.json) {
    const answers = results.map(({ file, faults, snags }) => ({
      ...(paths.length > 1 ? { file } : {}),
      ok: faults.length === 0,
      errors: faults.map((fault) => ({ path: fault.path, message: faultText(fault) })),
      snags,
    }));
    process.stdout.write(`${printable(JSON.stringify(paths.length > 1 ? answers : answers[0], null, 2))}\n`);
  } else {
    for (const { file, faults, snags } of results) {
      const found = snags.length === 0 ? 'good' : `good, ${snags.length} ${snags.length === 1 ? 'snag' : 'snags'}`;
      const lines = faults.length === 0 ? [`${file}: ${found}`] : faults.map((fault) => `${file}: ${faultText(fault)}`);
      process.stdout.write(printable(`${[...lines, ...snags.map(snagLine)].join('\n')}\n`));
    }
  }
  return results.some(({ faults }) => faults.length > 0) ? FINDING : GOOD;
}
