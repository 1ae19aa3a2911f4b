import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ts from 'typescript';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sequence } from '../../../core/src/testing/sequence.ts';
import { TypeScript } from '../languages/ts/printer.ts';
import { nowhere } from '../testing/nowhere.ts';
import { Sources } from './source.ts';
import { Specialiser } from './specialise.ts';
import { fieldsOf, tidied } from './tidy.ts';

/** Stages with the constructs of the core's, each on a body with x, y, n and sum; the plan supplies the decisions. */
const source = `
import { scaled } from './other.ts';

const STEPS = [3, 1, 4, 1, 5];
const FEW = 2;

/** Adds up; tells whether anything is left. */
function take(body: Body, by = FEW): boolean {
  body.sum += by;
  return body.sum > by * 3;
}

export function swaps(body) {
  const [a, b] = [body.x, body.y];
  body.x = b;
  body.y = a;
  const both = [body.x, body.y];
  body.x = 7;
  body.sum = both[0] - both[1];
}

export function chooses(body, p) {
  const more = body.n > 1 ? take(body, 5) : take(body);
  body.n = more ? 1 : 0;
  const far = p.far ? body.x * 2 : body.x;
  body.y = far > 10 && p.far ? far : -far;
}

export function loops(body, p) {
  let found = -1;
  for (let i = 0; i < STEPS.length; i++) {
    if (STEPS[i] < p.least) continue;
    if (STEPS[i] * body.x > body.y) {
      found = i;
      break;
    }
    body.sum += STEPS[i];
  }
  while (body.sum > 20 && found >= 0) body.sum -= 7;
  body.n = found;
}

export function switches(body, p) {
  switch (p.kind) {
    case 'half':
      body.x = scaled(body.x, 0.5);
      return;
    case 'none':
      break;
    default:
      body.x = scaled(body.x, p.by);
  }
  switch (body.n) {
    case 0:
      body.y = 1;
      break;
    case 1:
    case 2:
      body.y = 2;
      return;
    default:
      body.y = Math.min(body.x, body.sum, 4);
  }
  body.sum = Math.max(body.y, 0, body.x);
}

export function bits(body, p) {
  const all = (body.n | p.bit) & 7;
  body.sum = (all >> 1) ^ (1 << body.n);
  body.x = (body.n & p.bit) !== 0 ? body.x : -body.x;
}

export function unpacks(body, { by, inner: { least } }) {
  const { x, y: other } = body;
  body.x = other * by;
  body.y = x > least ? x : least;
}

export function ranks(body, p) {
  const at = STEPS.findIndex((step) => step > body.n);
  body.sum = at;
  body.n = p.far === true || !(body.x <= body.y) ? 1 : 0;
}
`;

const other = `
export function scaled(value: number, by: number): number {
  return by === 1 ? value : value * by;
}
`;

type Stage = (body: Record<string, number>, plan: object) => void;
const fieldsRead = new Set(['x', 'y', 'n', 'sum']);
const cases: readonly (readonly [string, object])[] = [
  ['swaps', {}],
  ['chooses', { far: true }],
  ['chooses', { far: false }],
  ['loops', { least: 0 }],
  ['loops', { least: 4 }],
  ['loops', { least: 9 }],
  ['switches', { kind: 'half' }],
  ['switches', { kind: 'none' }],
  ['switches', { kind: 'by', by: 1 }],
  ['switches', { kind: 'by', by: 3 }],
  ['bits', { bit: 0 }],
  ['bits', { bit: 2 }],
  ['unpacks', { by: 2, inner: { least: 3 } }],
  ['ranks', { far: true }],
  ['ranks', { far: false }],
];

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-fold-'));
  // What is folded is read as it stands; what it is compared with is run.
  writeFileSync(join(folder, 'stages.ts'), source);
  writeFileSync(join(folder, 'other.ts'), other);
  const options = { target: ts.ScriptTarget.ESNext, module: ts.ModuleKind.ESNext };
  writeFileSync(join(folder, 'stages.js'), ts.transpile(source.replace('./other.ts', './other.js'), options));
  writeFileSync(join(folder, 'other.js'), ts.transpile(other, options));
  writeFileSync(join(folder, 'package.json'), '{"type":"module"}');
});
afterAll(() => rmSync(folder, { recursive: true }));

function specialised(name: string, plan: object, steady: Record<string, number> = {}) {
  const specialiser = new Specialiser(new Sources(folder), steady);
  const routine = specialiser.stage('stages.ts', name, plan);
  const program = tidied(specialiser.program, [routine.name], fieldsRead);
  const tick = program.routines.filter((one) => one.name === routine.name);
  const fields = [...new Set([...fieldsOf(program), ...fieldsRead])].map((field): [string, number] => [field, 0]);
  const text = new TypeScript().file({
    ...nowhere,
    tuning: name,
    program: { ...program, routines: [...program.routines, nowhere.place] },
    tick,
    fields,
  });
  return { specialiser, text, program };
}

describe('folding', () => {
  it.each(cases)('%s with %j does what it did', async (name, plan) => {
    const { text } = specialised(name, plan);
    const file = join(folder, `${name}-${JSON.stringify(plan).replace(/\W+/g, '-')}.ts`);
    writeFileSync(file, text);
    const folded = (await import(/* @vite-ignore */ file)).motionTick as (body: object, hands: object) => void;
    const plain = (await import(/* @vite-ignore */ join(folder, 'stages.js')))[name] as Stage;
    const next = sequence(name.length * 31 + JSON.stringify(plan).length);
    for (let i = 0; i < 200; i++) {
      const begins = { x: next() * 40 - 20, y: next() * 40 - 20, n: Math.floor(next() * 5), sum: Math.floor(next() * 60) };
      const [was, is] = [{ ...begins }, { ...begins }];
      plain(was, plan);
      folded(is, {});
      expect({ begins, ...is }).toEqual({ begins, ...was });
    }
  });

  it('keeps nothing that a plan has decided', () => {
    expect(specialised('chooses', { far: false }).text).not.toContain('> 10');
    expect(specialised('switches', { kind: 'half' }).text).not.toContain('Math.min');
    expect(specialised('loops', { least: 9 }).text).toContain('< 9');
  });

  it('keeps a constant field as a number, and reports one that varies', () => {
    const { text, specialiser } = specialised('unpacks', { by: 2, inner: { least: 3 } }, { y: 4 });
    // Written, it is not the same in every tick.
    expect([...specialiser.varying]).toEqual(['y']);
    expect(text).toContain('8.0');
  });

  it('says what it cannot fold, and where', () => {
    writeFileSync(
      join(folder, 'odd.ts'),
      'export function odd(body) { body.x = typeof body.y; }\nexport function calls(body) { nobody(body); }\n',
    );
    const fold = (name: string) => () => new Specialiser(new Sources(folder), {}).stage('odd.ts', name, {});
    expect(fold('odd')).toThrow(/odd\.ts: TypeOfExpression/);
    expect(fold('calls')).toThrow('odd.ts: nothing is called nobody');
    expect(fold('missing')).toThrow('has no missing');
  });
});
