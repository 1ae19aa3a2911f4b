import { CHANGED, type CheckFile, HANDS, handed, POINTED, quoted, single } from '../../golden/columns.ts';

/** The test that replays goldens in it. */
export const check: CheckFile = {
  name: 'check.ts',
  run: 'node --experimental-strip-types check.ts',
  text: (asks) => `/* Replays the goldens against the game's own movement, and reports the first difference, and its size. */
import { readdirSync, readFileSync } from 'node:fs';
// Your own movement in place of the model's: a body with x, y, vx, vy …, and a tick that moves it.
import { motionFree, motionStart, motionTick } from './motion.ts';

const SLACK = 1e-6;
const fields = [${quoted}] as const;
const folder = new URL('goldens/', import.meta.url);
let failed = false;
for (const name of readdirSync(folder).filter((one) => one.endsWith('.csv')).sort()) {
  let b = motionStart();
  let parted = '';
  const [, ...lines] = readFileSync(new URL(name, folder), 'utf8').trim().split('\\n');
  for (const [tick, line] of lines.entries()) {
    const v = line.split(',').map(Number);
    const at = (i: number): number => v[i] as number;
    if (at(0) !== 0) b = motionStart();
    const h = {
      held: v.slice(1, 12), order: v.slice(12, 23),
      ${single.map(([field, at]) => `${field}: at(${at})`).join(', ')},
      pointed: at(${POINTED}) !== 0, changed: at(${CHANGED}) !== 0,
    };
    motionTick(b, h${handed(asks, {
      contact: 'motionFree',
      isClear: '() => true',
      plan: '(fromX, fromY, toX, toY, way) => {\n      Object.assign(way, { points: [fromX, fromY, toX, toY], reached: true, squeezed: false });\n      return true;\n    }',
    })});
    const i = fields.findIndex((field, k) => !(Math.abs(b[field] - at(${HANDS} + k)) <= SLACK * Math.max(1, Math.abs(at(${HANDS} + k)))));
    const field = fields[i];
    if (field === undefined) continue;
    const want = at(${HANDS} + i);
    parted = \`first at tick \${tick}: \${field} is \${b[field]}, in the golden \${want}, off by \${Math.abs(b[field] - want).toPrecision(3)}\`;
    break;
  }
  console.log(\`\${name}: \${parted || 'good'}\`);
  failed ||= parted !== '';
}
process.exitCode = failed ? 1 : 0;
`,
};
