import { execFileSync, spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Ground, Tape, Tuning } from '@zygopod/core';
import { asksGame } from '../languages/printer.ts';
import { motionOf, motionPrinters } from '../motion.ts';
import { begun, compared, modelRun } from './modelRun.ts';

const fields = ['pressed', 'stickX', 'stickY', 'pointX', 'pointY', 'swipe', 'spoke'];

/** A double by its bits, where a language reads and writes decimals less than exactly. */
const view = new DataView(new ArrayBuffer(8));
function bitsOf(value: number): string {
  view.setFloat64(0, value);
  return `#${view.getBigInt64(0)}`;
}
function fromBits(text: string): number {
  view.setBigInt64(0, BigInt(text.slice(1)));
  return view.getFloat64(0);
}

/** A program in each language that reads hands, a tick a line, and prints what the made file does with them. */
const drivers: Readonly<
  Record<
    string,
    {
      name: string;
      text(begin: (set: (field: string, at: number) => string) => string, asks: boolean): string;
      isInBits?: boolean;
      run(folder: string, input: string): string;
    }
  >
> = {
  c: {
    name: 'drive.c',
    text: (begin, asks) => `#include <stdio.h>
#include "motion.c"
${asks ? 'static int is_clear(double fromX, double fromY, double toX, double toY) { (void)fromX; (void)fromY; return ((long)floor(toX / 32) * 7 + (long)floor(toY / 32) * 13) % 5 != 0; }' : ''}
int main(void) {
  Body b; Hands h; double w[38]; double *v = w + 1;
  for (;;) {
    for (int i = 0; i < 38; i++) if (scanf("%lf", &w[i]) != 1) return 0;
    if (w[0] != 0) { motion_start(&b); ${begin((field, at) => `b.${field} = w[${at}];`)} }
    for (int i = 0; i < 11; i++) { h.held[i] = v[i]; h.order[i] = v[11 + i]; }
    ${fields.map((field, i) => `h.${field} = v[${22 + i}];`).join(' ')} h.pointed = v[29] != 0; h.changed = v[30] != 0;
    motion_tick(&b, &h, motion_free${asks ? ', is_clear' : ''});
    printf("${compared.map(() => '%.17g').join(' ')}\\n", ${compared.map((field) => `b.${field} + 0.0`).join(', ')});
  }
}
`,
    run: (folder, input) => {
      execFileSync('gcc', ['-O1', '-ffp-contract=off', 'drive.c', '-o', 'drive', '-lm'], { cwd: folder, stdio: 'pipe' });
      return execFileSync(join(folder, 'drive'), { input, encoding: 'utf8', maxBuffer: 1 << 28 });
    },
  },
  python: {
    name: 'drive.py',
    text: (begin, asks) => `import sys
import motion
b, h = motion.Body(), motion.Hands()
for line in sys.stdin:
    first, *v = [float(one) for one in line.split()]
    if first:
        b = motion.Body()
        ${begin((field, at) => `b.${field} = v[${at - 1}];`)}
    h.held, h.order = v[:11], v[11:22]
    ${fields.map((field, i) => `h.${field} = v[${22 + i}]`).join('; ')}
    h.pointed, h.changed = v[29] != 0, v[30] != 0
    motion.motion_tick(b, h${asks ? ', isClear=lambda ax, ay, bx, by: (int(bx // 32) * 7 + int(by // 32) * 13) % 5 != 0' : ''})
    print(${compared.map((field) => `repr(float(b.${field}) + 0.0)`).join(', ')})
`,
    run: (folder, input) => execFileSync('python3', ['drive.py'], { cwd: folder, input, encoding: 'utf8', maxBuffer: 1 << 28 }),
  },
  lua: {
    name: 'drive.lua',
    text: (begin, asks) => `local motion = dofile("motion.lua")
local b, h = motion.start(), motion.hands()
for line in io.lines() do
  local v = {}
  for one in line:gmatch("%S+") do v[#v + 1] = tonumber(one) + 0.0 end
  if table.remove(v, 1) ~= 0 then b = motion.start(); ${begin((field, at) => `b.${field} = v[${at}];`)} end
  for i = 1, 11 do h.held[i], h.order[i] = v[i], v[11 + i] end
  ${fields.map((field, i) => `h.${field} = v[${23 + i}]`).join('; ')}
  h.pointed, h.changed = v[30] ~= 0, v[31] ~= 0
  motion.tick(b, h, motion.free${asks ? ', function(_, _, bx, by) return (bx // 32 * 7 + by // 32 * 13) % 5 ~= 0 end' : ''})
  io.write(string.format("${compared.map(() => '%.17g').join(' ')}\\n", ${compared.map((field) => `b.${field} + 0.0`).join(', ')}))
end
`,
    run: (folder, input) => execFileSync('lua5.4', ['drive.lua'], { cwd: folder, input, encoding: 'utf8', maxBuffer: 1 << 28 }),
  },
  rust: {
    name: 'drive.rs',
    text: (begin, asks) => `mod motion;
use std::io::BufRead;
fn main() {
    let mut b = motion::motion_start();
    let mut h = motion::Hands::default();
    for line in std::io::stdin().lock().lines() {
        let mut v: Vec<f64> = line.unwrap().split_whitespace().map(|one| one.parse().unwrap()).collect();
        if v.remove(0) != 0.0 { b = motion::motion_start(); ${begin((field, at) => `b.${field} = v[${at - 1}];`)} }
        for i in 0..11 { h.held[i] = v[i]; h.order[i] = v[11 + i]; }
        ${fields.map((field, i) => `h.${field} = v[${22 + i}];`).join(' ')} h.pointed = v[29] != 0.0; h.changed = v[30] != 0.0;
        motion::motion_tick(&mut b, &h, &mut |b| motion::motion_free(b)${asks ? ', &mut |_, _, x: f64, y: f64| ((x / 32.0).floor() as i64 * 7 + (y / 32.0).floor() as i64 * 13) % 5 != 0' : ''});
        println!("${compared.map(() => '{}').join(' ')}", ${compared.map((field) => `b.${field} + 0.0`).join(', ')});
    }
}
`,
    run: (folder, input) => {
      execFileSync('rustc', ['drive.rs', '-o', 'drive-rs'], { cwd: folder, stdio: 'pipe' });
      return execFileSync(join(folder, 'drive-rs'), { input, encoding: 'utf8', maxBuffer: 1 << 28 });
    },
  },
  csharp: {
    name: 'drive.cs',
    text: (begin, asks) => `using System;
using System.Globalization;
public static class Drive {
    public static void Main() {
        var b = new Body(); var h = new Hands(); string line;
        var c = CultureInfo.InvariantCulture;
        while ((line = Console.ReadLine()) != null) {
            var v = Array.ConvertAll(line.Split(' '), one => BitConverter.Int64BitsToDouble(long.Parse(one.Substring(1))));
            if (v[0] != 0) { b = new Body(); ${begin((field, at) => `b.${field} = v[${at}];`)} }
            for (int i = 0; i < 11; i++) { h.held[i] = v[1 + i]; h.order[i] = v[12 + i]; }
            ${fields.map((field, i) => `h.${field} = v[${23 + i}];`).join(' ')} h.pointed = v[30] != 0; h.changed = v[31] != 0;
            Motion.Tick(b, h, Motion.Free${asks ? ', (ax, ay, bx, by) => ((long)Math.Floor(bx / 32) * 7 + (long)Math.Floor(by / 32) * 13) % 5 != 0' : ''});
            Console.WriteLine(string.Join(" ", new[] { ${compared.map((field) => `b.${field} + 0.0`).join(', ')} }.Select(c)));
        }
    }
    static string[] Select(this double[] all, CultureInfo c) { return Array.ConvertAll(all, one => "#" + BitConverter.DoubleToInt64Bits(one)); }
}
`,
    isInBits: true,
    run: (folder, input) => {
      execFileSync('mcs', ['drive.cs', 'motion.cs', '-out:drive.exe'], { cwd: folder, stdio: 'pipe' });
      return execFileSync('mono', [join(folder, 'drive.exe')], { input, encoding: 'utf8', maxBuffer: 1 << 28 });
    },
  },
  ts: {
    name: 'drive.ts',
    text: (begin, asks) => `import { readFileSync } from 'node:fs';
import { motionFree, motionStart, motionTick } from './motion.ts';
let b = motionStart();
const out: string[] = [];
for (const line of readFileSync(0, 'utf8').split('\\n').filter(Boolean)) {
  const [first, ...v] = line.split(' ').map(Number) as number[];
  if (first !== 0) { b = motionStart(); ${begin((field, at) => `b.${field} = v[${at - 1}]!;`)} }
  const h = { held: v.slice(0, 11), order: v.slice(11, 22), ${fields.map((field, i) => `${field}: v[${22 + i}]!`).join(', ')}, pointed: v[29] !== 0, changed: v[30] !== 0 };
  motionTick(b, h, motionFree${asks ? ', (_ax, _ay, bx, by) => (Math.floor(bx / 32) * 7 + Math.floor(by / 32) * 13) % 5 !== 0' : ''});
  out.push([${compared.map((field) => `b.${field} + 0`).join(', ')}].join(' '));
}
process.stdout.write(out.join('\\n') + '\\n');
`,
    run: (folder, input) => execFileSync(process.execPath, ['drive.ts'], { cwd: folder, input, encoding: 'utf8', maxBuffer: 1 << 28 }),
  },
};

/** Numbers of the hands in a line, with the first of all before them. */
const HANDS = 32;

/** What each language needs to be run. */
const needed: Readonly<Record<string, string>> = {
  c: 'gcc',
  python: 'python3',
  lua: 'lua5.4',
  rust: 'rustc',
  csharp: 'mcs',
  ts: process.execPath,
};

/** The languages that this machine can run. */
export const provable = Object.keys(drivers).filter(
  (language) => !spawnSync(needed[language] as string, [language === 'lua' ? '-v' : '--version'], { stdio: 'ignore' }).error,
);

/** Where the file of a language parts from the model on some tapes, counted through; null where it does nowhere, bit for bit. */
export function proveOn(
  language: string,
  tuning: Tuning,
  tapes: readonly Tape[],
  folder: string,
  { model = tuning, ground }: { model?: Tuning; ground?: Ground } = {},
): { tick: number; field: string; model: number; file: number } | null {
  const printer = motionPrinters().find(({ id }) => id === language);
  const driver = drivers[language];
  if (!printer || !driver) throw new Error(`nothing proves ${language}`);
  const motion = motionOf(tuning);
  const known = new Set(motion.fields.map(([field]) => field));
  writeFileSync(join(folder, `motion.${printer.extension}`), printer.file(motion));
  const begin = (set: (field: string, at: number) => string) =>
    begun.flatMap((field, i) => (known.has(field) ? [set(field, HANDS + i)] : [])).join(' ');
  writeFileSync(join(folder, driver.name), driver.text(begin, asksGame(motion)));
  const runs = tapes.map((tape) => modelRun(model, tape, ground));
  const hands = runs.flatMap((run) => run.hands.map((line) => [...line, ...run.begins]));
  const rows = runs.flatMap((run) => run.rows);
  const inWords = (line: number[]) => (driver.isInBits ? line.map(bitsOf) : line).join(' ');
  const told = driver.run(folder, `${hands.map(inWords).join('\n')}\n`);
  const lines = told.trim().split('\n');
  if (lines.length !== rows.length) throw new Error(`${language}: ${lines.length} ticks of ${rows.length}`);
  for (const [tick, row] of rows.entries()) {
    const values = (lines[tick] as string).split(' ').map((one) => (one.startsWith('#') ? fromBits(one) : Number(one)));
    const at = row.findIndex((value, i) => !Object.is(value, (values[i] as number) + 0));
    if (at >= 0) return { tick, field: compared[at] as string, model: row[at] as number, file: values[at] as number };
  }
  return null;
}
