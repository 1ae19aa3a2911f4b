import { type Kind, kindOf, type Routine, type StandardName, type Statement } from './ir.ts';
import { docOf, filled, type Motion, Printer } from './printer.ts';

/** Letters of a line that holds all of an `if`. */
const LINE = 136;

/** What the languages with braces have in common. */
export abstract class Curly extends Printer {
  protected readonly indent: string = '    ';
  protected readonly words = { and: '&&', or: '||', unlike: '!=', like: '==', not: '!', yes: 'true', no: 'false' };
  protected abstract local(name: string, value: string, kind: Kind): string;
  protected readonly bracketed: boolean = true;
  /** Words before locals that may share a line. */
  protected readonly types: readonly string[] = [];

  protected choice(test: string, yes: string, no: string): string {
    return `(${test} ? ${yes} : ${no})`;
  }

  protected statement(s: Statement, depth: number, steps: Statement[]): string[] {
    const test = (text: string) => (this.bracketed ? `(${text})` : text);
    switch (s.is) {
      case 'local':
        return [this.at(depth, this.local(this.localName(s.name), this.expression(s.value), kindOfStatement(s)))];
      case 'set':
        return [this.at(depth, `${this.expression(s.target)} = ${this.expression(s.value)};`)];
      case 'if':
        return this.chainOnLines(s, depth, steps) ?? this.chain(s, depth, steps);
      case 'loop':
        return [
          this.at(depth, `while ${test(this.expression(s.test))} {`),
          ...this.statements(s.body, depth + 1, s.step),
          ...this.statements(s.step, depth + 1),
          this.at(depth, '}'),
        ];
      case 'next':
        return [...this.statements(steps, depth), this.at(depth, 'continue;')];
      case 'leave':
        return [this.at(depth, 'break;')];
      case 'return':
        return [this.at(depth, s.value ? `return ${this.expression(s.value)};` : 'return;')];
      case 'do':
        return [this.at(depth, `${this.expression(s.value)};`)];
    }
  }

  /** An `if` and what follows when it fails, each branch on a line of its own; null where one is too long for that. */
  private chainOnLines(s: If, depth: number, steps: Statement[]): string[] | null {
    const lines: string[] = [];
    for (let one: If | null = s, word = ''; one; word = 'else ') {
      const yes = this.short(one.yes, steps);
      lines.push(this.at(depth, `${word}if ${this.test(one)} { ${yes} }`));
      const rest: readonly Statement[] = one.no;
      const [next] = rest;
      one = rest.length === 1 && next?.is === 'if' ? next : null;
      const no = one ? '' : this.short(rest, steps);
      if (yes === null || no === null) return null;
      if (!one && no !== '') lines.push(this.at(depth, `else { ${no} }`));
    }
    const whole = [lines[0], ...lines.slice(1).map((line) => line.trimStart())].join(' ');
    if (whole.length <= LINE) return [whole];
    return lines.every((line) => line.length <= LINE) ? lines : null;
  }

  private chain(s: If, depth: number, steps: Statement[], word = ''): string[] {
    const lines = [this.at(depth, `${word}if ${this.test(s)} {`), ...this.statements(s.yes, depth + 1, steps)];
    if (s.no.length === 0) return [...lines, this.at(depth, '}')];
    const [first, ...more] = s.no;
    if (first?.is === 'if' && more.length === 0) return [...lines, ...this.chain(first, depth, steps, '} else ')];
    const no = this.short(s.no, steps);
    const line = this.at(depth, `} else { ${no} }`);
    if (no !== null && line.length <= LINE) return [...lines, line];
    return [...lines, this.at(depth, '} else {'), ...this.statements(s.no, depth + 1, steps), this.at(depth, '}')];
  }

  private test({ test }: If): string {
    return this.bracketed ? `(${this.expression(test)})` : this.expression(test);
  }

  /** Statements line by line; what is set of x and then of y shares one. */
  protected override statements(all: readonly Statement[], depth: number, steps: Statement[] = []): string[] {
    const lines: string[] = [];
    for (let i = 0; i < all.length; i++) {
      const [one, next] = [all[i] as Statement, all[i + 1]];
      const own = this.statement(one, depth, steps);
      const pair = next && isPair(one, next) ? this.statement(next, depth, steps) : [];
      const line = `${own[0]} ${(pair[0] ?? '').trimStart()}`;
      if (pair.length === 1 && line.length <= LINE) {
        lines.push(line);
        i++;
      } else lines.push(...own);
    }
    return lines;
  }

  /** At most two plain statements as they stand in one line; null where they are more. */
  protected short(all: readonly Statement[], steps: Statement[]): string | null {
    if (all.length > 2 || all.some(({ is }) => is === 'if' || is === 'loop')) return null;
    return this.statements(all, 0, steps).join(' ');
  }

  /** Lines in which what one type of locals is given stands together, where the language has that. */
  protected together(lines: readonly string[], types: readonly string[]): string[] {
    const out: string[] = [];
    for (const line of lines) {
      const last = out.at(-1) ?? '';
      const type = types.find((one) => line.trimStart().startsWith(one));
      const more = type && line.trimStart().slice(type.length, -1);
      const goesOn =
        type &&
        more &&
        last.slice(0, line.length - line.trimStart().length + type.length) ===
          line.slice(0, line.length - line.trimStart().length + type.length);
      if (goesOn && last.length + more.length + 2 <= LINE) out[out.length - 1] = `${last.slice(0, -1)}, ${more};`;
      else out.push(line);
    }
    return out;
  }

  /** A function: on one line where its body is one short statement. */
  protected routine(head: string, body: readonly Statement[], depth: number): string[] {
    const lines = this.together(this.statements(body, depth + 1), this.types);
    const line = this.at(depth, `${head} { ${(lines[0] ?? '').trimStart()} }`);
    return lines.length === 1 && line.length <= LINE ? [line] : [this.at(depth, `${head} {`), ...lines, this.at(depth, '}')];
  }

  protected doc({ words, source }: Routine, depth: number): string[] {
    return [this.at(depth, `/* ${filled(docOf({ words, source }).replaceAll('*/', '* /')).join(`\n${this.at(depth, '   ')}`)} */`)];
  }

  protected steps({ tick }: Motion, contact: string): string[] {
    return tick.map((routine) =>
      routine ? `${this.call(this.routineName(routine.name), [], routine.usesBody, routine.usesHands)};` : contact,
    );
  }
}

type If = Extract<Statement, { is: 'if' }>;

/** Whether two statements set the same of x and of y. */
function isPair(one: Statement, next: Statement): boolean {
  if (one.is !== 'set' || next.is !== 'set' || one.target.is !== 'body' || next.target.is !== 'body') return false;
  return /[xX]$/.test(one.target.field) && one.target.field.replace(/x$/, 'y').replace(/X$/, 'Y') === next.target.field;
}

const kindOfStatement = (s: Extract<Statement, { is: 'local' }>): Kind => kindOf(s.value);

/** Names with commas between them, as many as a line holds. */
function wrapped(names: readonly string[]): string[] {
  const lines: string[] = [];
  for (const name of names) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + name.length < 120) lines[lines.length - 1] = `${last}, ${name}`;
    else lines.push(name);
  }
  return lines;
}

const standardOf: Partial<Record<StandardName, string>> = { min: 'fmin', max: 'fmax', abs: 'fabs' };

const cHelpers = {
  highWord: 'static inline double highWord(double x) { uint64_t u; memcpy(&u, &x, 8); return (double)(u >> 32); }\n',
  fromHighWord:
    'static inline double fromHighWord(double high) { uint64_t u = (uint64_t)high << 32; double x; memcpy(&x, &u, 8); return x; }\n',
  withHighWord:
    'static inline double withHighWord(double x, double high) { uint64_t u; memcpy(&u, &x, 8); u = (u & 0xffffffffu) | ((uint64_t)high << 32); memcpy(&x, &u, 8); return x; }\n',
};

export class C extends Curly {
  readonly id = 'c';
  readonly extension = 'c';
  protected override readonly types = ['double ', 'int '];
  protected infinity = 'INFINITY';
  protected override readonly words = { and: '&&', or: '||', unlike: '!=', like: '==', not: '!', yes: '1', no: '0' };

  protected override bodyField = (field: string) => `b->${field}`;
  protected override handsField = (field: string) => `h->${field}`;
  protected index = (text: string) => `(int)${text}`;
  protected control = (list: string, index: string) => `h->${list}[${index}]`;
  protected table = (name: string, index: string) => `${name}[${index}]`;
  protected whole = (text: string) => `(int64_t)${text}`;
  protected real = (text: string) => `(double)(${text})`;
  protected standard = (name: StandardName, args: string[]) => `${standardOf[name] ?? name}(${args.join(', ')})`;
  protected local = (name: string, value: string, kind: Kind) => `${kind === 'truth' ? 'int' : 'double'} ${name} = ${value};`;
  protected override routineName = (name: string) =>
    ['length', 'sin', 'cos', 'exp', 'log', 'exp2', 'atan2', 'atan', 'pow', 'scale', 'clamp'].includes(name) ? `m_${name}` : name;
  protected override localName = (name: string) =>
    ['double', 'long', 'short', 'int', 'float', 'auto', 'b', 'h'].includes(name) ? `${name}_` : name;

  file(motion: Motion): string {
    this.know(motion.program);
    const type = (kind: Kind | null) => (kind === null ? 'void' : kind === 'truth' ? 'int' : 'double');
    const head = (routine: Routine) =>
      `static ${type(routine.gives)} ${this.routineName(routine.name)}(${
        [
          ...(routine.usesBody ? ['Body *b'] : []),
          ...(routine.usesHands ? ['const Hands *h'] : []),
          ...routine.parameters.map(({ name, kind }) => `${type(kind)} ${this.localName(name)}`),
        ].join(', ') || 'void'
      })`;
    const routines = motion.program.routines
      .map((routine) => [...this.doc(routine, 0), ...this.routine(head(routine), routine.body, 0), ''].join('\n'))
      .join('\n');
    return `/* The motion of ${motion.tuning.replaceAll('*/', '')}, made by Zygopod. Compile with -ffp-contract=off: every result is then the model's, bit for bit. */
#include <math.h>
#include <stdint.h>
#include <string.h>

/* The hands: the number of the press that holds a control down (0: up), of its last press, and a bit for each that went down in this tick.
   ${motion.controls.map((name, i) => `${i} ${name}`).join(', ')} */
typedef struct {
    double held[${motion.controls.length}], order[${motion.controls.length}];
    double pressed, stickX, stickY, pointX, pointY, swipe, spoke;
    int pointed, changed;
} Hands;

typedef struct {
${wrapped(motion.fields.map(([field]) => field))
  .map((line) => `    double ${line};`)
  .join('\n')}
} Body;

/* Moves the body from where it is to velocityToX and velocityToY, as far as the game's walls let it: sets x, y, vx and vy. */
typedef void (*Contact)(Body *b);

${this.needed(cHelpers, routines)}${motion.program.tables.map(({ name, values }) => `static const double ${name}[] = { ${values.map((value) => this.number(value)).join(', ')} };\n`).join('')}
${routines}
/* Nothing is in the way. */
void motion_free(Body *b) {
    b->x = b->velocityToX; b->y = b->velocityToY;
    b->vx = b->velocityX; b->vy = b->velocityY;
}

void motion_start(Body *b) {
    memset(b, 0, sizeof *b);
${motion.fields
  .filter(([, value]) => value !== 0)
  .map(([field, value]) => `    b->${field} = ${this.number(value)};`)
  .join('\n')}
}

void motion_tick(Body *b, const Hands *h, Contact contact) {
${this.steps(motion, 'contact(b);')
  .map((line) => `    ${line}`)
  .join('\n')}
}

`;
  }
}

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

export interface Body {
${motion.fields.map(([field]) => `  ${field}: number;`).join('\n')}
}

${this.needed(typescriptHelpers, routines)}${motion.program.tables.map(({ name, values }) => `const ${name} = [${values.map((value) => this.number(value)).join(', ')}];\n`).join('')}
${routines}
/** Nothing is in the way. */
export function motionFree(b: Body): void {
  b.x = b.velocityToX;
  b.y = b.velocityToY;
  b.vx = b.velocityX;
  b.vy = b.velocityY;
}

export function motionStart(): Body {
  return {
${motion.fields.map(([field, value]) => `    ${field}: ${this.number(value)},`).join('\n')}
  };
}

/** A tick; \`contact\` moves the body from where it is to velocityToX and velocityToY, as far as the game's walls let it: it sets x, y, vx and vy. */
export function motionTick(b: Body, h: Hands, contact: (b: Body) => void): void {
${this.steps(motion, 'contact(b);')
  .map((line) => `  ${line}`)
  .join('\n')}
}
`;
  }
}
