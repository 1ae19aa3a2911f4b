import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { exportGround, groundFormats, importGround, parseGround, parseTape, parseTuning, readJson } from '@zygopod/core';
import { root } from '../root.ts';
import { Dice } from './dice.ts';
import { type Figure, none, unbounded, under } from './figures.ts';

interface Sample {
  name: string;
  bytes: Uint8Array;
}

/** The demo's files, and its small grounds in every format. */
function samples(): Sample[] {
  const folder = join(root, 'demo');
  const files = readdirSync(folder)
    .filter((name) => name.endsWith('.json'))
    .map((name) => ({ name, bytes: new Uint8Array(readFileSync(join(folder, name))) }));
  const grounds = files.filter(({ name, bytes }) => name.endsWith('.ground.json') && bytes.length < 40_000);
  const exported = grounds.flatMap(({ name, bytes }) => {
    const read = parseGround(new TextDecoder().decode(bytes));
    if (!read.ok) throw new Error(`${name} does not read`);
    return groundFormats.map(({ id, ending }) => {
      const { content } = exportGround(read.value, id);
      return { name: `${name.split('.')[0]}.${ending}`, bytes: typeof content === 'string' ? new TextEncoder().encode(content) : content };
    });
  });
  return [...files, ...exported].filter(({ bytes }) => bytes.length < 200_000);
}

const tokens = [
  '1e308',
  '-1e308',
  '1e-320',
  'NaN',
  '-0',
  '9'.repeat(30),
  '\u0000',
  '\u001b[31m',
  '"',
  '{',
  '[',
  '}',
  ']',
  '<',
  '/>',
  '&#0;',
  ',',
  '\n',
  '#',
  '-',
  'M',
  'C',
  'A',
  'transform="scale(1e300)"',
  'data-mark="#"',
].map((t) => new TextEncoder().encode(t));

/** A file with one to eight things done to it: bytes changed, parts cut, doubled, moved in from another, odd words put in. */
function mutated(dice: Dice, bytes: Uint8Array, other: Uint8Array): Uint8Array {
  let now = bytes;
  const splice = (at: number, cut: number, put: Uint8Array) => Buffer.concat([now.subarray(0, at), put, now.subarray(at + cut)]);
  for (let i = 1 + dice.below(8); i > 0; i--) {
    const at = dice.below(now.length + 1);
    const length = 1 + dice.below(Math.min(200, now.length + 1));
    switch (dice.below(6)) {
      case 0: {
        const copy = now.slice();
        for (let n = 1 + dice.below(4); n > 0; n--) copy[dice.below(copy.length)] = dice.below(256);
        now = copy;
        break;
      }
      case 1:
        now = splice(at, length, new Uint8Array());
        break;
      case 2:
        now = splice(at, 0, now.subarray(at, at + length));
        break;
      case 3:
        now = splice(at, dice.below(8), dice.one(tokens));
        break;
      case 4:
        now = splice(at, length, other.subarray(at, at + length));
        break;
      default:
        now = dice.is(0.1) ? now.subarray(0, at) : splice(at, 1, new Uint8Array([now[at] ?? 0].map((b) => b ^ (1 << dice.below(8)))));
    }
  }
  return now;
}

/** Reads a file as the page, the server and the command line do. */
function readAll({ name, bytes }: Sample): void {
  importGround(name, bytes, { cell: 32, threshold: 0.5 });
  if (!name.endsWith('.json')) return;
  const text = new TextDecoder().decode(bytes);
  readJson(text);
  if (name.endsWith('.tuning.json')) parseTuning(text);
  if (name.endsWith('.tape.json')) parseTape(text);
}

interface Reading {
  count: number;
  exceptions: number;
  hangs: number;
  slowest: number;
  peak: number;
}

/** Files that are read at most. */
const MOST = 100_000;

/** Milliseconds after which a file counts as one that hangs. */
const HANG = 3000;

function read(minutes: number, seed: number, most: number): Reading {
  const dice = new Dice(seed);
  const all = samples();
  const end = performance.now() + minutes * 60_000;
  const result: Reading = { count: 0, exceptions: 0, hangs: 0, slowest: 0, peak: 0 };
  for (; result.count < most && performance.now() < end; result.count++) {
    const { name, bytes } = dice.one(all);
    const sample = { name, bytes: mutated(dice, bytes, dice.one(all).bytes) };
    const begun = performance.now();
    try {
      readAll(sample);
    } catch (error) {
      result.exceptions++;
      if (result.exceptions <= 5)
        process.stderr.write(`file ${result.count} of ${name}: ${error instanceof Error ? error.stack : error}\n`);
    }
    const took = performance.now() - begun;
    result.slowest = Math.max(result.slowest, took);
    if (took > HANG) result.hangs++;
    if (result.count % 500 === 0) result.peak = Math.max(result.peak, process.memoryUsage.rss() / 1048576);
  }
  return result;
}

/** Reads mutated files in a process of its own, so that its memory is theirs alone; `stop` ends it. */
export async function files(minutes: number, seed: number, stop?: AbortSignal): Promise<Figure[]> {
  const reader = spawn(process.execPath, [join(root, 'cli/src/siege/files.ts'), String(minutes), String(seed), String(MOST)], {
    ...(stop && { signal: stop }),
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  // A reader that is stopped reports nothing.
  reader.on('error', () => undefined);
  let text = '';
  reader.stdout.on('data', (chunk: Buffer) => {
    text += chunk.toString();
  });
  await once(reader, 'close');
  const result = (text ? JSON.parse(text) : { count: 0, exceptions: 1, hangs: 0, slowest: 0, peak: 0 }) as Reading;
  return [
    unbounded('files', 'mutated files', String(result.count)),
    none('files', 'exceptions', result.exceptions),
    none('files', 'hangs', result.hangs),
    unbounded('files', 'slowest', `${result.slowest.toFixed(0)} ms`),
    under('files', 'memory, most', result.peak, 500, 'MB'),
  ];
}

if (process.argv[1] === import.meta.filename) {
  const [minutes, seed, most] = process.argv.slice(2).map(Number) as [number, number, number];
  process.stdout.write(JSON.stringify(read(minutes, seed, most)));
}
