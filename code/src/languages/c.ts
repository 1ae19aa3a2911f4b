import type { Kind, Routine, StandardName } from '../fold/ir.ts';
import { Curly } from './curly.ts';
import { asksGame, filled, type Motion } from './printer.ts';

/** Names with commas between them, as many as a line holds. */
function wrapped(names: readonly string[]): string[] {
  const lines: string[] = [];
  for (const name of names) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + name.length < 126) lines[lines.length - 1] = `${last}, ${name}`;
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
          ...(routine.usesClear ? ['Clear isClear'] : []),
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

/* The game's walls: takes the body from x, y towards velocityToX, velocityToY; sets contactX and contactY where it came to, contactVx
   and contactVy where its velocity is less for it, and contactCount where it touches. edgeLeft, edgeTop … are the game's to set. */
typedef void (*Contact)(Body *b);${
      asksGame(motion)
        ? '\n\n/* Whether nothing is in the way of the body straight from one place to another. */\ntypedef int (*Clear)(double fromX, double fromY, double toX, double toY);'
        : ''
    }

${this.needed(cHelpers, routines)}${motion.program.tables.map(({ name, values }) => `static const double ${name}[] = { ${values.map((value) => this.number(value)).join(', ')} };\n`).join('')}
${routines}
/* Nothing is in the way. */
void motion_free(Body *b) {
    b->contactX = b->velocityToX; b->contactY = b->velocityToY;
}

void motion_start(Body *b) {
    memset(b, 0, sizeof *b);
${filled(
  motion.fields
    .filter(([, value]) => value !== 0)
    .map(([field, value]) => `b->${field}~=~${this.number(value)};`)
    .join(' '),
)
  .map((line) => `    ${line.replaceAll('~', ' ')}`)
  .join('\n')}
}

void motion_tick(Body *b, const Hands *h, Contact contact${asksGame(motion) ? ', Clear isClear' : ''}) {
${this.steps(motion, 'contact(b);')
  .map((line) => `    ${line}`)
  .join('\n')}
}
`;
  }
}
