import { inComment } from '@zygopod/core';
import type { Expression, Kind, Routine, StandardName, Used } from '../fold/ir.ts';
import { fieldsOf } from '../fold/tidy.ts';
import { Curly } from './curly.ts';
import { asksOf, type Motion, planeLists, tickWords, type Walls } from './made.ts';

const typescriptHelpers = {
  Word: `const double = new Float64Array(1);
const words = new Uint32Array(double.buffer);
double[0] = 1;
const HIGH = words[1] === 0x3ff00000 ? 1 : 0;
`,
  highWord: 'function highWord(x: number): number { double[0] = x; return words[HIGH] as number; }\n',
  fromHighWord: 'function fromHighWord(high: number): number { words[1 - HIGH] = 0; words[HIGH] = high; return double[0] as number; }\n',
  withHighWord:
    'function withHighWord(x: number, high: number): number { double[0] = x; words[HIGH] = high; return double[0] as number; }\n',
};

export class TypeScript extends Curly {
  readonly id = 'ts';
  readonly extension = 'ts';
  protected override readonly indent = '  ';
  protected infinity = 'Infinity';
  protected override readonly words = { and: '&&', or: '||', unlike: '!==', like: '===', not: '!', yes: 'true', no: 'false' };
  protected control = (list: string, index: string) => `(h.${list}[${index}] as number)`;
  protected table = (name: string, index: string) => `(${name}[${index}] as number)`;
  protected whole = (text: string) => text;
  protected real = (text: string) => `(${text})`;
  protected index = (text: string) => text;
  protected standard = (name: StandardName, args: string[]) => `${/Word/.test(name) ? name : `Math.${name}`}(${args.join(', ')})`;
  protected override remainder = (left: string, right: string) => `((${left}) % (${right}))`;
  protected local = (name: string, value: string, kind: Kind) => `let ${name}: ${kind === 'truth' ? 'boolean' : 'number'} = ${value};`;
  protected readonly handed: Readonly<Record<Used, string>> = {
    body: 'b: Body',
    hands: 'h: Hands',
    walls: 'w: Walls',
    contact: 'contact: (b: Body) => void',
    isClear: 'isClear: Clear',
    plan: 'plan: Plan',
  };
  protected override way = (part: string) => (part === 'count' ? '(b.way.points.length / 2)' : `b.way.${part}`);
  protected waypoint = (at: string, offset: number) => `(b.way.points[2 * ${at}${offset > 0 ? ' + 1' : ''}] as number)`;
  protected override list = (name: string, at: string) => `(w.${name}[${at}] as number)`;
  protected override target = (e: Expression) => this.expression(e).replace(/^\((.*) as number\)$/, '$1');

  protected head(routine: Routine): string {
    const type = (kind: Kind | null) => (kind === null ? 'void' : kind === 'truth' ? 'boolean' : 'number');
    const parameters = this.parameters(routine, ({ name, kind }) => `${this.localName(name)}: ${type(kind)}`);
    return `function ${routine.name}(${parameters}): ${type(routine.gives)}`;
  }

  walls(walls: Walls): string {
    this.know(walls.program);
    const body = [...fieldsOf(walls.program)].sort();
    return `/* Walls for the motion of ${inComment(walls.tuning)}, made by Zygopod: a circle or a level box swept against segments, the model's, bit for bit. */

/** What is read and written of a body. */
interface Body {
${body.map((field) => `  ${field}: number;`).join('\n')}
}

/** Walls, each a segment: x0, y0, x1, y1, in the same unit as the motion. What is handed to a tick are \`contact\` and \`isClear\`. */
export class Walls {
  segments: ArrayLike<number>;
  courses: Float64Array;
  near: Float64Array;
${planeLists.map((name) => `  ${name} = new Float64Array(${walls.planes});`).join('\n')}
${walls.fields.map(([field, value]) => `  ${field} = ${this.number(value)};`).join('\n')}

  constructor(segments: ArrayLike<number>) {
    this.many = segments.length / 4;
    this.segments = segments;
    this.courses = new Float64Array(3 * this.many);
    this.near = new Float64Array(this.many);
    ${this.callOn('this', walls.courses, ['this.many'])};
  }

  /** Takes the body along its walls. */
  contact = (b: Body): void => ${this.callOn('this', walls.contact)};

  /** Whether the body can go straight from one place to another. */
  isClear = (fromX: number, fromY: number, toX: number, toY: number): boolean =>
    ${this.callOn('this', walls.isClear, ['fromX', 'fromY', 'toX', 'toY'])};
}

${this.routines(walls.program.routines)}`;
  }

  file(motion: Motion): string {
    this.know(motion.program);
    const plans = asksOf(motion).includes('plan');
    const routines = this.routines(motion.program.routines);
    return `/* The motion of ${inComment(motion.tuning)}, made by Zygopod: every result is the model's, bit for bit. */

/** The hands: the number of the press that holds a control down (0: up), of its last press, and a bit for each that went down in this tick. ${motion.controls.map((name, i) => `${i} ${name}`).join(', ')}. */
export interface Hands {
  held: number[];
  order: number[];
  pressed: number;
  stickX: number;
  stickY: number;
  pointX: number;
  pointY: number;
  swipe: number;
  spoke: number;
  pointed: boolean;
  changed: boolean;
}

${asksOf(motion).includes('isClear') ? '/** Whether nothing is in the way of the body straight from one place to another. */\nexport type Clear = (fromX: number, fromY: number, toX: number, toY: number) => boolean;\n\n' : ''}${
  plans
    ? `/** A way for the body's place: its points x, y, …, from where it is to where it gets; whether it gets where it was wanted to, and whether it goes through a gap that leaves no room for the margin. */
export interface Way {
  points: number[];
  reached: boolean;
  squeezed: boolean;
}

/** Writes a way from one place to another; false where there is none, and then it leaves the way as it is. */
export type Plan = (fromX: number, fromY: number, toX: number, toY: number, way: Way) => boolean;

`
    : ''
}export interface Body {${plans ? '\n  way: Way;' : ''}
${motion.fields.map(([field]) => `  ${field}: number;`).join('\n')}
}

${this.needed(typescriptHelpers, routines)}${motion.program.tables.map(({ name, values }) => `const ${name} = [${values.map((value) => this.number(value)).join(', ')}];\n`).join('')}
${routines}
/** Nothing is in the way. */
export function motionFree(b: Body): void {
  b.contactX = b.velocityToX;
  b.contactY = b.velocityToY;
}

export function motionStart(): Body {
  return {${plans ? '\n    way: { points: [], reached: false, squeezed: false },' : ''}
${motion.fields.map(([field, value]) => `    ${field}: ${this.number(value)},`).join('\n')}
  };
}

/** ${tickWords(motion, '`contact`')} */
export function motionTick(b: Body, h: Hands${this.askedOf(motion)}): void {
${this.steps(motion)
  .map((line) => `  ${line}`)
  .join('\n')}
}
`;
  }
}
