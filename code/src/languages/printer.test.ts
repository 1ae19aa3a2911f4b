import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sequence } from '../../../core/src/testing/sequence.ts';
import { snakeCased } from '../casing/casing.ts';
import type { Expression, Kind, Sign } from '../fold/ir.ts';
import { nowhere } from '../testing/nowhere.ts';
import { Lua } from './lua/printer.ts';
import type { Printer } from './printer.ts';
import { docOf, filled } from './program.ts';
import { Python } from './python/printer.ts';
import { TypeScript } from './ts/printer.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-printed-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

const begins = { x: 3, y: -2, z: 0.5 };

/** A random expression of some kind, of the given depth. */
function anyExpression(next: () => number, kind: Kind, depth: number): Expression {
  const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
  const part = (of: Kind) => anyExpression(next, of, depth - 1);
  const binary = (of: Kind, ...signs: Sign[]): Expression => ({ is: 'binary', sign: pick(...signs), left: part(of), right: part(of) });
  if (kind === 'truth') {
    if (depth <= 0) return { is: 'binary', sign: pick('<', '>='), left: part('number'), right: part('number') };
    const chance = next();
    if (chance < 0.5) return binary('truth', '&&', '||', '===', '!==');
    if (chance < 0.8) return binary('number', '<', '<=', '>', '>=', '===', '!==');
    return { is: 'not', of: part('truth') };
  }
  if (depth <= 0) return next() < 0.5 ? { is: 'number', value: pick(-3, -1, 2, 5) } : { is: 'body', field: pick('x', 'y', 'z') };
  const chance = next();
  if (chance < 0.6) return binary('number', '+', '-', '*', '-');
  if (chance < 0.75) return { is: 'minus', of: part('number') };
  if (chance < 0.85) return { is: 'standard', name: pick('min', 'max'), args: [part('number'), part('number')] };
  return { is: 'choice', test: part('truth'), yes: part('number'), no: part('number') };
}

/** The value of an expression, computed part by part: brackets don't affect it. */
function worked(e: Expression): number | boolean {
  const value = (one: Expression) => worked(one) as number;
  switch (e.is) {
    case 'number':
      return e.value;
    case 'body':
      return begins[e.field as keyof typeof begins];
    case 'not':
      return !worked(e.of);
    case 'minus':
      return -value(e.of);
    case 'choice':
      return worked(e.test) ? worked(e.yes) : worked(e.no);
    case 'standard':
      return (e.name === 'min' ? Math.min : Math.max)(value(e.args[0] as Expression), value(e.args[1] as Expression));
    case 'binary': {
      const [a, b] = [value(e.left), value(e.right)];
      const all: Partial<Record<Sign, number | boolean>> = {
        '+': a + b,
        '-': a - b,
        '*': a * b,
        '<': a < b,
        '<=': a <= b,
        '>': a > b,
        '>=': a >= b,
        '===': a === b,
        '!==': a !== b,
        '&&': Boolean(a) && Boolean(b),
        '||': Boolean(a) || Boolean(b),
      };
      return all[e.sign] as number | boolean;
    }
    default:
      throw new Error(e.is);
  }
}

const expressions = Array.from({ length: 400 }, (_, i) => anyExpression(sequence(i * 911 + 7), 'number', 1 + (i % 5)));

/** A file that sets a field to each of the expressions. */
function printed(printer: Printer): string {
  const routine = {
    name: 'work',
    parameters: [],
    gives: null,
    uses: new Set(['body'] as const),
    body: expressions.map((value, i) => ({ is: 'set' as const, target: { is: 'body' as const, field: `r${i}` }, value })),
    words: '',
    source: 'nowhere',
  };
  const fields = [...Object.entries(begins), ...expressions.map((_, i): [string, number] => [`r${i}`, 0])];
  return printer.file({ ...nowhere, tuning: 'Any', program: { routines: [routine, nowhere.place], tables: [] }, tick: [routine], fields });
}

describe('an expression that is printed', () => {
  const wanted = expressions.map((one) => (worked(one) as number) + 0);

  it('in TypeScript comes to what its parts come to', async () => {
    const file = join(folder, 'any.ts');
    writeFileSync(file, printed(new TypeScript()));
    const module = await import(/* @vite-ignore */ file);
    const body = module.motionStart();
    module.motionTick(body, {});
    expect(expressions.map((_, i) => body[`r${i}`] + 0)).toEqual(wanted);
  });

  it.each([
    [
      'Python',
      new Python(),
      'python3',
      'import any_motion as m\nb = m.Body()\nm.motion_tick(b, m.Hands())\nprint(*[float(getattr(b, "r%d" % i)) for i in range(400)])\n',
    ],
    [
      'Lua',
      new Lua(),
      'lua5.4',
      'local m = dofile("any_motion.lua")\nlocal b = m.start()\nm.tick(b, m.hands())\nfor i = 0, 399 do io.write(string.format("%.17g ", b["r" .. i])) end\n',
    ],
  ] as const)('in %s comes to what its parts come to', (_, printer, program, run) => {
    // Where there is no such program on the machine, nothing is said of it here.
    if (spawnSync(program, ['-v']).error) return;
    writeFileSync(join(folder, `any_motion.${printer.extension}`), printed(printer));
    writeFileSync(join(folder, `run.${printer.extension}`), run);
    const { stdout, stderr } = spawnSync(program, [`run.${printer.extension}`], { cwd: folder, encoding: 'utf8' });
    expect(stderr).toBe('');
    expect(
      stdout
        .trim()
        .split(' ')
        .map((one) => Number(one) + 0),
    ).toEqual(wanted);
  });
});

describe('code in snake case', () => {
  it('has its names and comments so; texts, types, files of the core and the first line stay', () => {
    const code =
      '-- myBoots\n-- Sets toX (motion/wallIndex.ts)\nlocal fromX = h["stickX"] + M.isClear(b.vx, HANDS_UP)\nclass WayOf:\n    QQQthe nextStepQQQ\n';
    const wanted =
      '-- myBoots\n-- Sets to_x (motion/wallIndex.ts)\nlocal from_x = h["stickX"] + M.is_clear(b.vx, HANDS_UP)\nclass WayOf:\n    QQQthe next_stepQQQ\n';
    expect(snakeCased(code.replaceAll('QQQ', '"""'))).toBe(wanted.replaceAll('QQQ', '"""'));
  });
});

describe('the comment of a function', () => {
  it.each([
    ['Keys as a vector. More of it.', 'Keys as a vector.'],
    ['−1, 0 or 1, by their presses (0: up. Else: down): the newest wins.', '−1, 0 or 1, by their presses (0: up. Else: down).'],
    ['No end', 'No end'],
    ['', ''],
  ])('of "%s" is its first sentence, and the place of the rest', (words, first) => {
    expect(docOf({ words, source: 'motion/ramp.ts' })).toBe(`${first} (motion/ramp.ts)`.trim());
  });

  it('stands in lines that hold as much as they can, and all of it', () => {
    const words = Array.from({ length: 120 }, (_, i) => 'word'.repeat(1 + (i % 4))).join(' ');
    const lines = filled(words);
    expect(lines.join(' ')).toBe(words);
    for (const [i, line] of lines.entries()) {
      expect(line.length).toBeLessThanOrEqual(134);
      const first = lines[i + 1]?.split(' ')[0];
      if (first) expect(line.length + first.length).toBeGreaterThanOrEqual(134);
    }
  });
});
