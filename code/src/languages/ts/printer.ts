import { inComment } from '@zygopod/core';
import type { Expression, Kind, Routine, StandardName, Used } from '../../fold/ir.ts';
import { fieldsOf } from '../../fold/tidy.ts';
import { Curly } from '../curly.ts';
import { callbacksUsed, handsWords, type Motion, planeLists, STEERING, tickWords, type Walls } from '../program.ts';

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

/** The fields of a body that are read and written. */
interface Body {
${body.map((field) => `  ${field}: number;`).join('\n')}
}

/** Walls, each a segment: x0, y0, x1, y1, in the same unit as the motion. Pass \`contact\` and \`isClear\` to a tick. */
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

  /** Moves the body along its walls. */
  contact = (b: Body): void => ${this.callOn('this', walls.contact)};

  /** True if the straight line from one place to another is clear for the body. */
  isClear = (fromX: number, fromY: number, toX: number, toY: number): boolean =>
    ${this.callOn('this', walls.isClear, ['fromX', 'fromY', 'toX', 'toY'])};
}

${this.routines(walls.program.routines)}`;
  }

  file(motion: Motion): string {
    this.know(motion.program);
    const plans = callbacksUsed(motion).includes('plan');
    const routines = this.routines(motion.program.routines);
    return `/* The motion of ${inComment(motion.tuning)}, made by Zygopod: every result is the model's, bit for bit. */

const controls = [${motion.controls.map((name) => `'${name}'`).join(', ')}] as const;
export type Control = (typeof controls)[number];
const swipes = [${motion.swipes.map((name) => `'${name}'`).join(', ')}] as const;
export type Swipe = (typeof swipes)[number];

/** ${handsWords} */
export interface Hands {
  held: number[];
  order: number[];
  presses: number;
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

export function newHands(): Hands {
  const rest = { presses: 0, pressed: 0, stickX: 0, stickY: 0, pointX: 0, pointY: 0, swipe: 0, spoke: 0, pointed: false, changed: false };
  return { held: controls.map(() => 0), order: controls.map(() => 0), ...rest };
}

export function press(h: Hands, control: Control): void {
  const i = controls.indexOf(control);
  h.changed = true;
  if (h.held[i] !== 0) return;
  h.held[i] = h.order[i] = ++h.presses;
  if (i < ${STEERING}) h.spoke = 1;
  h.pressed |= 1 << i;
}

export function release(h: Hands, control: Control): void {
  const i = controls.indexOf(control);
  h.changed = true;
  h.held[i] = 0;
  if (i < ${STEERING}) h.spoke = 1;
}

/** The stick, each part from −1 to 1; y grows downwards. */
export function stick(h: Hands, x: number, y: number): void {
  Object.assign(h, { stickX: x, stickY: y, spoke: 2, changed: true });
}

/** The pointer, in the world. */
export function point(h: Hands, x: number, y: number): void {
  Object.assign(h, { pointX: x, pointY: y, pointed: true, changed: true });
}

export function swipe(h: Hands, to: Swipe): void {
  Object.assign(h, { swipe: swipes.indexOf(to) + 1, changed: true });
}

${callbacksUsed(motion).includes('isClear') ? '/** True if the straight line from one place to another is clear for the body. */\nexport type Clear = (fromX: number, fromY: number, toX: number, toY: number) => boolean;\n\n' : ''}${
  plans
    ? `/** A path of the body's place: its points x, y, …; reached: it ends at the destination; squeezed: it uses a gap without room for the margin. */
export interface Way {
  points: number[];
  reached: boolean;
  squeezed: boolean;
}

/** Writes a path from one place to another; returns false if there is none, and then leaves it unchanged. */
export type Plan = (fromX: number, fromY: number, toX: number, toY: number, way: Way) => boolean;

`
    : ''
}export interface Body {${plans ? '\n  way: Way;' : ''}
${motion.fields.map(([field]) => `  ${field}: number;`).join('\n')}
}

${this.needed(typescriptHelpers, routines)}${motion.program.tables.map(({ name, values }) => `const ${name} = [${values.map((value) => this.number(value)).join(', ')}];\n`).join('')}
${routines}
/** No walls: the whole displacement. */
export function motionFree(b: Body): void {
  b.contactX = b.velocityToX;
  b.contactY = b.velocityToY;
}

export function motionStart(): Body {
  return {${plans ? '\n    way: { points: [], reached: false, squeezed: false },' : ''}
${motion.fields.map(([field, value]) => `    ${field}: ${this.number(value)},`).join('\n')}
  };
}

/** Places a started body, facing an angle in degrees: 0 east, 90 south. */
export function motionPlace(b: Body, x: number, y: number, facing: number): void {
  ${this.call(motion.place.name, ['x', 'y', 'facing'], motion.place)};
}
${this.edges(motion)}
/** ${tickWords(motion, '`contact`')} */
export function motionTick(b: Body, h: Hands${this.callbacksOf(motion)}): void {
${this.steps(motion)
  .map((line) => `  ${line}`)
  .join('\n')}
  h.pressed = 0;
  h.swipe = 0;
  h.changed = false;
}
`;
  }

  protected edgesText(settings: readonly (readonly [string, string])[]): string {
    return `
/** Holds a started body in an area, with the edges that the tuning uses. */
export function motionEdges(b: Body, left: number, top: number, right: number, bottom: number): void {
${settings.map(([field, value]) => `  b.${field} = ${value};`).join('\n')}
}
`;
  }
}
