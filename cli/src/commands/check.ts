import {
  bySeverity,
  type DocumentKind,
  documentKinds,
  type Fault,
  faultText,
  type Ground,
  groundSnags,
  kindMarked,
  kindNames,
  markOf,
  printable,
  type Reading,
  readGround,
  readJson,
  readTargets,
  readTuning,
  rerun,
  type Snag,
  shown,
  type Tape,
  type Target,
  type Tuning,
  targetFaults,
  traceSnags,
  tuningSnags,
  wallSnags,
} from '@zygopod/core';
import { groundFile, readText, tapeFile } from '../files.ts';
import { FINDING, GOOD, Misuse } from '../misuse.ts';
import { snagLine } from './drill.ts';

/** Checks of a parsed document by kind: faults that the format alone can't find, and snags. */
const checks: Partial<Record<DocumentKind, (value: unknown, ground?: Ground, tape?: Tape) => Checked>> = {
  tuning: (value, ground, tape) => of(readTuning(value), (tuning) => ({ faults: [], snags: snagsOf(tuning, ground, tape) })),
  ground: (value) => of(readGround(value), (ground) => ({ faults: [], snags: wallSnags(ground) })),
  targets: (value) => of(readTargets(value), ({ targets }) => ({ faults: impossible(targets), snags: [] })),
};

interface Checked {
  faults: Fault[];
  snags: Snag[];
}

const refused = (...faults: Fault[]): Checked => ({ faults, snags: [] });

const of = <T>(reading: Reading<T>, found: (document: T) => Checked): Checked =>
  reading.ok ? found(reading.value) : refused(...reading.faults);

/** The targets of a set that no metric can meet. */
const impossible = (targets: readonly Target[]): Fault[] =>
  targetFaults(targets).flatMap((fault, i) => (fault ? [{ path: `targets.${i}`, found: fault, expected: 'targets that can be met' }] : []));

/** All faults of a file's text, in the format that it declares; and the snags of its document, with the given ground and tape. */
function checked(text: string, ground?: Ground, tape?: Tape): Checked {
  const json = readJson(text);
  if (!json.ok) return refused(...json.faults);
  const mark = markOf(json.value);
  const kind = kindMarked(mark);
  if (!kind) {
    const marks = kindNames.map((name) => documentKinds[name].format.format);
    return refused({ path: 'format', found: shown(mark), expected: `one of ${marks.join(', ')}` });
  }
  const { largest, read } = documentKinds[kind];
  const bytes = Buffer.byteLength(text);
  if (bytes > largest) return refused({ path: '', found: `${bytes} bytes`, expected: `at most ${largest}` });
  return checks[kind]?.(json.value, ground, tape) ?? of(read(json.value), () => refused());
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
