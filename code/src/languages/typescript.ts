import type { Kind, Routine, StandardName } from '../fold/ir.ts';
import { Curly } from './curly.ts';
import { asksGame, type Motion } from './printer.ts';

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
  protected override localName = (name: string) => (['b', 'h'].includes(name) ? `${name}_` : name);

  file(motion: Motion): string {
    this.know(motion.program);
    const type = (kind: Kind | null) => (kind === null ? 'void' : kind === 'truth' ? 'boolean' : 'number');
    const head = (routine: Routine) =>
      `function ${routine.name}(${[
        ...(routine.usesBody ? ['b: Body'] : []),
        ...(routine.usesHands ? ['h: Hands'] : []),
        ...routine.parameters.map(({ name, kind }) => `${this.localName(name)}: ${type(kind)}`),
        ...(routine.usesClear ? ['isClear: Clear'] : []),
      ].join(', ')}): ${type(routine.gives)}`;
    const routines = motion.program.routines
      .map((routine) => [...this.doc(routine, 0), ...this.routine(head(routine), routine.body, 0), ''].join('\n'))
      .join('\n');
    return `/* The motion of ${motion.tuning.replaceAll('*/', '')}, made by Zygopod: every result is the model's, bit for bit. */

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

${asksGame(motion) ? '/** Whether nothing is in the way of the body straight from one place to another. */\nexport type Clear = (fromX: number, fromY: number, toX: number, toY: number) => boolean;\n\n' : ''}export interface Body {
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
  return {
${motion.fields.map(([field, value]) => `    ${field}: ${this.number(value)},`).join('\n')}
  };
}

/** A tick; \`contact\` takes the body towards velocityToX and velocityToY as far as the game's walls let it: it sets contactX, contactY, contactVx, contactVy and contactCount. */
export function motionTick(b: Body, h: Hands, contact: (b: Body) => void${asksGame(motion) ? ', isClear: Clear' : ''}): void {
${this.steps(motion, 'contact(b);')
  .map((line) => `  ${line}`)
  .join('\n')}
}
`;
  }
}
