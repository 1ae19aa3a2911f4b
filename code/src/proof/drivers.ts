import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Asked } from '../fold/ir.ts';
import { compared } from './modelRun.ts';

const fields = ['pressed', 'stickX', 'stickY', 'pointX', 'pointY', 'swipe', 'spoke'];

/** Numbers of a line before the ways: whether a run begins, the hands, and what it begins with. */
export const HANDS = 32;
export const LINE = HANDS + 6;
/** Numbers of a way before its points: its four ends, whether there is one, gets there, is squeezed, and how many points it has. */
export const WAY = 8;

/** What a program that drives the code of a motion is made for. */
export interface Driven {
  /** Sets fields of the body that begins, each from its place in a line. */
  begin(set: (field: string, at: number) => string): string;
  asks: readonly Asked[];
  /** The walls that the body meets, x0, y0, x1, y1 each; null: none, and cells that are solid for one that steps. */
  segments: readonly number[] | null;
}

/** A program that reads hands and ways, a tick a line, and prints what the made file does with them. */
export interface Driver {
  name: string;
  text(driven: Driven): string;
  /** Whether it reads and writes doubles by their bits, because its language does so with decimals less than exactly. */
  isInBits?: boolean;
  run(folder: string, input: string): string;
}

/** What the code is handed, each after a comma. */
const handed = (asks: readonly Asked[], of: Readonly<Record<Asked, string>>) => asks.map((one) => `, ${of[one]}`).join('');

const ran = (command: string, args: readonly string[], folder: string, input: string) =>
  execFileSync(command, args, { cwd: folder, input, encoding: 'utf8', maxBuffer: 1 << 28 });
const built = (command: string, args: readonly string[], folder: string) => execFileSync(command, args, { cwd: folder, stdio: 'pipe' });

const c: Driver = {
  name: 'drive.c',
  text: ({ begin, asks, segments }) => `#include <stdio.h>
#include "motion.c"
${segments ? '#include "walls.c"' : ''}
static double told[65536], points[4096];
static int count;
${
  segments
    ? `static const double segments[] = { ${segments.join(', ')} };
static double courses[${segments.length}], near[${segments.length}];
static Walls walls;
static void contact(Body *b) { walls_contact(&walls, b); }`
    : ''
}
${
  asks.includes('isClear')
    ? `static int is_clear(double fromX, double fromY, double toX, double toY) {
  ${segments ? 'return walls_isClear(&walls, fromX, fromY, toX, toY);' : '(void)fromX; (void)fromY; return ((long)floor(toX / 32) * 7 + (long)floor(toY / 32) * 13) % 5 != 0;'}
}`
    : ''
}
${
  asks.includes('plan')
    ? `static int plan(double fromX, double fromY, double toX, double toY, Way *way) {
  for (int i = 0; i < count; i += ${WAY} + 2 * (int)told[i + 7]) {
    const double *t = told + i;
    if (t[0] != fromX || t[1] != fromY || t[2] != toX || t[3] != toY) continue;
    if (t[4] == 0) return 0;
    way->reached = t[5] != 0; way->squeezed = t[6] != 0; way->count = (int)t[7];
    for (int k = 0; k < 2 * way->count; k++) points[k] = t[${WAY} + k];
    way->points = points;
    return 1;
  }
  puts("nobody planned that");
  return 0;
}`
    : ''
}
int main(void) {
  Body b; Hands h; double w[${LINE + 1}]; double *v = w + 1;
  for (;;) {
    for (int i = 0; i < ${LINE + 1}; i++) if (scanf("%lf", &w[i]) != 1) return 0;
    count = (int)w[${LINE}];
    for (int i = 0; i < count; i++) if (scanf("%lf", &told[i]) != 1) return 1;
    if (w[0] != 0) {
      motion_start(&b); ${begin((field, at) => `b.${field} = w[${at}];`)}
      ${segments ? `walls_start(&walls, segments, ${segments.length / 4}, courses, near);` : ''}
    }
    for (int i = 0; i < 11; i++) { h.held[i] = v[i]; h.order[i] = v[11 + i]; }
    ${fields.map((field, i) => `h.${field} = v[${22 + i}];`).join(' ')} h.pointed = v[29] != 0; h.changed = v[30] != 0;
    motion_tick(&b, &h${handed(asks, { contact: segments ? 'contact' : 'motion_free', isClear: 'is_clear', plan: 'plan' })});
    printf("${compared.map(() => '%.17g').join(' ')}\\n", ${compared.map((field) => `b.${field} + 0.0`).join(', ')});
  }
}
`,
  run: (folder, input) => {
    built('gcc', ['-O1', '-ffp-contract=off', 'drive.c', '-o', 'drive', '-lm'], folder);
    return ran(join(folder, 'drive'), [], folder, input);
  },
};

const python: Driver = {
  name: 'drive.py',
  text: ({ begin, asks, segments }) => `import sys
import motion
${segments ? 'import walls' : ''}
b, h, told = motion.Body(), motion.Hands(), []
${segments ? `segments = [${segments.map((one) => `float(${one})`).join(', ')}]\nheld = walls.Walls(segments)` : ''}


def plan(fromX, fromY, toX, toY, way):
    i = 0
    while i < len(told):
        count = int(told[i + 7])
        if told[i:i + 4] == [fromX, fromY, toX, toY]:
            if told[i + 4] == 0:
                return False
            way.reached, way.squeezed = told[i + 5] != 0, told[i + 6] != 0
            way.points = told[i + ${WAY}:i + ${WAY} + 2 * count]
            return True
        i += ${WAY} + 2 * count
    raise Exception("nobody planned that")


for line in sys.stdin:
    first, *v = [float(one) for one in line.split()]
    told = v[${LINE}:]
    if first:
        b = motion.Body()
        ${begin((field, at) => `b.${field} = v[${at - 1}];`)}
        ${segments ? 'held = walls.Walls(segments)' : ''}
    h.held, h.order = v[:11], v[11:22]
    ${fields.map((field, i) => `h.${field} = v[${22 + i}]`).join('; ')}
    h.pointed, h.changed = v[29] != 0, v[30] != 0
    motion.motion_tick(b, h${handed(asks, {
      contact: segments ? 'held.contact' : 'motion.motion_free',
      isClear: segments ? 'held.isClear' : 'lambda ax, ay, bx, by: (int(bx // 32) * 7 + int(by // 32) * 13) % 5 != 0',
      plan: 'plan',
    })})
    print(${compared.map((field) => `repr(float(b.${field}) + 0.0)`).join(', ')})
`,
  run: (folder, input) => ran('python3', ['drive.py'], folder, input),
};

const lua: Driver = {
  name: 'drive.lua',
  text: ({ begin, asks, segments }) => `local motion = dofile("motion.lua")
${segments ? `local walls = dofile("walls.lua")\nlocal segments = { ${segments.map((one) => `${one} + 0.0`).join(', ')} }\nlocal held = walls.walls(segments)` : ''}
local b, h, told = motion.start(), motion.hands(), {}
local function plan(fromX, fromY, toX, toY, way)
  local i = 1
  while i <= #told do
    local count = told[i + 7]
    if told[i] == fromX and told[i + 1] == fromY and told[i + 2] == toX and told[i + 3] == toY then
      if told[i + 4] == 0 then return false end
      way.reached, way.squeezed = told[i + 5] ~= 0, told[i + 6] ~= 0
      way.points = table.move(told, i + ${WAY}, i + ${WAY} + 2 * count - 1, 1, {})
      return true
    end
    i = math.floor(i + ${WAY} + 2 * count)
  end
  error("nobody planned that")
end
for line in io.lines() do
  local v = {}
  for one in line:gmatch("%S+") do v[#v + 1] = tonumber(one) + 0.0 end
  told = table.move(v, ${LINE + 2}, #v, 1, {})
  if table.remove(v, 1) ~= 0 then
    b = motion.start(); ${begin((field, at) => `b.${field} = v[${at}];`)}
    ${segments ? 'held = walls.walls(segments)' : ''}
  end
  for i = 1, 11 do h.held[i], h.order[i] = v[i], v[11 + i] end
  ${fields.map((field, i) => `h.${field} = v[${23 + i}]`).join('; ')}
  h.pointed, h.changed = v[30] ~= 0, v[31] ~= 0
  motion.tick(b, h${handed(asks, {
    contact: segments ? 'held.contact' : 'motion.free',
    isClear: segments ? 'held.isClear' : 'function(_, _, bx, by) return (bx // 32 * 7 + by // 32 * 13) % 5 ~= 0 end',
    plan: 'plan',
  })})
  io.write(string.format("${compared.map(() => '%.17g').join(' ')}\\n", ${compared.map((field) => `b.${field} + 0.0`).join(', ')}))
end
`,
  run: (folder, input) => ran('lua5.4', ['drive.lua'], folder, input),
};

const rust: Driver = {
  name: 'drive.rs',
  text: ({ begin, asks, segments }) => `mod motion;
${segments ? 'mod walls;' : ''}
use std::cell::RefCell;
use std::io::BufRead;
fn main() {
    let mut b = motion::motion_start();
    let mut h = motion::Hands::default();
    ${segments ? `let segments = vec![${segments.map((one) => `${one} as f64`).join(', ')}];\n    let held = RefCell::new(walls::Walls::new(segments.clone()));` : 'let _none = RefCell::new(0);'}
    for line in std::io::stdin().lock().lines() {
        let mut v: Vec<f64> = line.unwrap().split_whitespace().map(|one| one.parse().unwrap()).collect();
        let told: Vec<f64> = v[${LINE + 1}..].to_vec();
        if v.remove(0) != 0.0 {
            b = motion::motion_start(); ${begin((field, at) => `b.${field} = v[${at - 1}];`)}
            ${segments ? '*held.borrow_mut() = walls::Walls::new(segments.clone());' : ''}
        }
        for i in 0..11 { h.held[i] = v[i]; h.order[i] = v[11 + i]; }
        ${fields.map((field, i) => `h.${field} = v[${22 + i}];`).join(' ')} h.pointed = v[29] != 0.0; h.changed = v[30] != 0.0;
        let _ = &told;
        motion::motion_tick(&mut b, &h${handed(asks, {
          contact: segments
            ? '&mut |b: &mut motion::Body| held.borrow_mut().contact(b)'
            : '&mut |b: &mut motion::Body| motion::motion_free(b)',
          isClear: segments
            ? '&mut |ax, ay, bx, by| held.borrow_mut().isClear(ax, ay, bx, by)'
            : '&mut |_, _, x: f64, y: f64| ((x / 32.0).floor() as i64 * 7 + (y / 32.0).floor() as i64 * 13) % 5 != 0',
          plan: `&mut |from_x: f64, from_y: f64, to_x: f64, to_y: f64, way: &mut motion::Way| {
            let mut i = 0;
            while i < told.len() {
                let count = told[i + 7] as usize;
                if told[i..i + 4] == [from_x, from_y, to_x, to_y] {
                    if told[i + 4] == 0.0 { return false; }
                    way.reached = told[i + 5] != 0.0;
                    way.squeezed = told[i + 6] != 0.0;
                    way.points = told[i + ${WAY}..i + ${WAY} + 2 * count].to_vec();
                    return true;
                }
                i += ${WAY} + 2 * count;
            }
            panic!("nobody planned that")
        }`,
        })});
        println!("${compared.map(() => '{}').join(' ')}", ${compared.map((field) => `b.${field} + 0.0`).join(', ')});
    }
}
`,
  run: (folder, input) => {
    built('rustc', ['drive.rs', '-o', 'drive-rs'], folder);
    return ran(join(folder, 'drive-rs'), [], folder, input);
  },
};

const csharp: Driver = {
  name: 'drive.cs',
  text: ({ begin, asks, segments }) => `using System;
using System.Globalization;
public static class Drive {
    static double[] v;
    static bool Told(double fromX, double fromY, double toX, double toY, out int at) {
        for (at = ${LINE + 1}; at < v.Length; at += ${WAY} + 2 * (int)v[at + 7])
            if (v[at] == fromX && v[at + 1] == fromY && v[at + 2] == toX && v[at + 3] == toY) return v[at + 4] != 0;
        throw new Exception("nobody planned that");
    }
    public static void Main() {
        var b = new Body(); var h = new Hands(); string line;
        ${segments ? `var segments = new double[] { ${segments.join(', ')} };\n        var held = new Walls(segments);` : ''}
        while ((line = Console.ReadLine()) != null) {
            v = Array.ConvertAll(line.Split(' '), one => BitConverter.Int64BitsToDouble(long.Parse(one.Substring(1))));
            if (v[0] != 0) {
                b = new Body(); ${begin((field, at) => `b.${field} = v[${at}];`)}
                ${segments ? 'held = new Walls(segments);' : ''}
            }
            for (int i = 0; i < 11; i++) { h.held[i] = v[1 + i]; h.order[i] = v[12 + i]; }
            ${fields.map((field, i) => `h.${field} = v[${23 + i}];`).join(' ')} h.pointed = v[30] != 0; h.changed = v[31] != 0;
            Motion.Tick(b, h${handed(asks, {
              contact: segments ? 'held.Contact' : 'Motion.Free',
              isClear: segments
                ? 'held.IsClear'
                : '(ax, ay, bx, by) => ((long)Math.Floor(bx / 32) * 7 + (long)Math.Floor(by / 32) * 13) % 5 != 0',
              plan: `(fromX, fromY, toX, toY, way) => {
                int at;
                if (!Told(fromX, fromY, toX, toY, out at)) return false;
                way.reached = v[at + 5] != 0; way.squeezed = v[at + 6] != 0;
                way.points = new double[2 * (int)v[at + 7]];
                Array.Copy(v, at + ${WAY}, way.points, 0, way.points.Length);
                return true;
            }`,
            })});
            Console.WriteLine(string.Join(" ", new[] { ${compared.map((field) => `b.${field} + 0.0`).join(', ')} }.Select()));
        }
    }
    static string[] Select(this double[] all) { return Array.ConvertAll(all, one => "#" + BitConverter.DoubleToInt64Bits(one)); }
}
`,
  isInBits: true,
  run: (folder, input) => {
    const walls = existsSync(join(folder, 'walls.cs')) ? ['walls.cs'] : [];
    built('mcs', ['drive.cs', 'motion.cs', ...walls, '-out:drive.exe'], folder);
    return ran('mono', [join(folder, 'drive.exe')], folder, input);
  },
};

const typescript: Driver = {
  name: 'drive.ts',
  text: ({ begin, asks, segments }) => `import { readFileSync } from 'node:fs';
import { motionFree, motionStart, motionTick } from './motion.ts';
${segments ? `import { Walls } from './walls.ts';\nconst segments = [${segments.join(', ')}];\nlet held = new Walls(segments);` : ''}
let b = motionStart();
let told: number[] = [];
function plan(fromX: number, fromY: number, toX: number, toY: number, way: { points: number[]; reached: boolean; squeezed: boolean }): boolean {
  for (let i = 0; i < told.length; i += ${WAY} + 2 * told[i + 7]!) {
    if (told[i] !== fromX || told[i + 1] !== fromY || told[i + 2] !== toX || told[i + 3] !== toY) continue;
    if (told[i + 4] === 0) return false;
    way.reached = told[i + 5] !== 0;
    way.squeezed = told[i + 6] !== 0;
    way.points = told.slice(i + ${WAY}, i + ${WAY} + 2 * told[i + 7]!);
    return true;
  }
  throw new Error('nobody planned that');
}
const out: string[] = [];
for (const line of readFileSync(0, 'utf8').split('\\n').filter(Boolean)) {
  const [first, ...v] = line.split(' ').map(Number) as number[];
  told = v.slice(${LINE});
  if (first !== 0) {
    b = motionStart(); ${begin((field, at) => `b.${field} = v[${at - 1}]!;`)}
    ${segments ? 'held = new Walls(segments);' : ''}
  }
  const h = { held: v.slice(0, 11), order: v.slice(11, 22), ${fields.map((field, i) => `${field}: v[${22 + i}]!`).join(', ')}, pointed: v[29] !== 0, changed: v[30] !== 0 };
  motionTick(b, h${handed(asks, {
    contact: segments ? 'held.contact' : 'motionFree',
    isClear: segments ? 'held.isClear' : '(_ax, _ay, bx, by) => (Math.floor(bx / 32) * 7 + Math.floor(by / 32) * 13) % 5 !== 0',
    plan: 'plan',
  })});
  out.push([${compared.map((field) => `b.${field} + 0`).join(', ')}].join(' '));
}
process.stdout.write(out.join('\\n') + '\\n');
`,
  run: (folder, input) => ran(process.execPath, ['drive.ts'], folder, input),
};

/** The programs by the language of the code that they drive. */
export const drivers: Readonly<Record<string, Driver>> = { c, python, lua, rust, csharp, ts: typescript };
