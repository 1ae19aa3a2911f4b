import ts from 'typescript';
import { handed } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';
import { type Driver, fields, LINE, ran, WAY } from '../../testing/driver.ts';
import type { Proof } from '../../testing/languageProof.ts';

const driver: Driver = {
  text: ({ begin, asks, segments }) => `import { readFileSync } from 'node:fs';
import { motionFree, motionStart, motionTick } from './motion.ts';
${segments ? `import { Walls } from './walls.ts';\nconst segments = [${segments.join(', ')}];\nlet held = new Walls(segments);` : ''}
let b = motionStart();
let paths: number[] = [];
function plan(fromX: number, fromY: number, toX: number, toY: number, way: { points: number[]; reached: boolean; squeezed: boolean }): boolean {
  for (let i = 0; i < paths.length; i += ${WAY} + 2 * paths[i + 7]!) {
    if (paths[i] !== fromX || paths[i + 1] !== fromY || paths[i + 2] !== toX || paths[i + 3] !== toY) continue;
    if (paths[i + 4] === 0) return false;
    way.reached = paths[i + 5] !== 0;
    way.squeezed = paths[i + 6] !== 0;
    way.points = paths.slice(i + ${WAY}, i + ${WAY} + 2 * paths[i + 7]!);
    return true;
  }
  throw new Error('nobody planned that');
}
const out: string[] = [];
for (const line of readFileSync(0, 'utf8').split('\\n').filter(Boolean)) {
  const [first, ...v] = line.split(' ').map(Number) as number[];
  paths = v.slice(${LINE});
  if (first !== 0) {
    b = motionStart(); ${begin((field, at) => `b.${field} = v[${at - 1}]!;`)}
    ${segments ? 'held = new Walls(segments);' : ''}
  }
  const h = { held: v.slice(0, 11), order: v.slice(11, 22), ${fields.map((field, i) => `${field}: v[${22 + i}]!`).join(', ')}, pointed: v[29] !== 0, changed: v[30] !== 0 };
  motionTick(b, h${handed(asks, {
    contact: segments ? 'held.contact' : 'motionFree',
    isClear: segments
      ? 'held.isClear'
      : '(_ax, _ay, bx, by) => bx < 0 || by < 0 || bx >= 512 || by >= 384 || (Math.floor(bx / 32) * 7 + Math.floor(by / 32) * 13) % 5 !== 0',
    plan: 'plan',
  })});
  out.push([${compared.map((field) => `b.${field} + 0`).join(', ')}].join(' '));
}
process.stdout.write(out.join('\\n') + '\\n');
`,
};

const transpiled = (text: string) =>
  ts.transpileModule(text, {
    reportDiagnostics: true,
    compilerOptions: { removeComments: true, target: ts.ScriptTarget.ESNext, module: ts.ModuleKind.ESNext },
  });

/** How tests run it. */
export const proof: Proof = {
  command: process.execPath,
  driver,
  run: (stem, folder, input) => ran(process.execPath, [`${stem}.ts`], folder, input),
  faults: (texts) => texts.flatMap((text) => transpiled(text).diagnostics ?? []).map(({ messageText }) => String(messageText)),
  withoutComments: (texts) => texts.map((text) => transpiled(text).outputText),
  isCamel: true,
  names: { refused: ['eval', 'undefined', '1a'], taken: ['$walk'] },
};
