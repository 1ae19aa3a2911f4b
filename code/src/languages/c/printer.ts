import { inComment } from '@zygopod/core';
import { snake, snakeCased } from '../../casing/casing.ts';
import type { Callback, Kind, Routine, StandardName, Used } from '../../fold/ir.ts';
import { Curly } from '../curly.ts';
import { callbacksUsed, edgeNames, filled, handsWords, type Motion, planeLists, STEERING, type Walls } from '../program.ts';

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
    this.#prefix +
    (['length', 'sin', 'cos', 'exp', 'log', 'exp2', 'atan2', 'atan', 'pow', 'scale', 'clamp'].includes(name) ? `m_${name}` : name);
  protected readonly handed: Readonly<Record<Used, string>> = {
    body: 'Body *b',
    hands: 'const Hands *h',
    walls: 'Walls *w',
    contact: 'Contact contact',
    isClear: 'Clear isClear',
    plan: 'Plan plan',
  };
  protected override way = (part: string) => `b->way.${part}`;
  protected override wallsField = (field: string) => `w->${field}`;
  protected override list = (name: string, at: string) => `w->${name}[${at}]`;
  // Callbacks receive the body, by which the game finds its own data.
  protected override ask = (of: Callback, args: readonly string[]) => `${of}(${['b', ...args].join(', ')})`;
  protected override arranged(own: readonly string[], { uses }: Pick<Routine, 'uses'>, text: Readonly<Record<Used, string>>): string {
    return super.arranged(own, { uses: uses.has('isClear') ? new Set([...uses, 'body']) : uses }, text);
  }
  protected waypoint = (at: string, offset: number) => `b->way.points[2 * ${at}${offset > 0 ? ' + 1' : ''}]`;

  #prefix = '';

  protected head(routine: Routine): string {
    const type = (kind: Kind | null) => (kind === null ? 'void' : kind === 'truth' ? 'int' : 'double');
    const parameters = this.parameters(routine, ({ name, kind }) => `${type(kind)} ${this.localName(name)}`);
    return `static ${type(routine.gives)} ${this.routineName(routine.name)}(${parameters || 'void'})`;
  }

  /** Initial values of the fields that aren't 0, as many to a line as it holds. */
  #begins(of: 'b' | 'w', fields: readonly (readonly [string, number])[]): string {
    const set = fields.filter(([, value]) => value !== 0).map(([field, value]) => `${of}->${field}~=~${this.number(value)};`);
    return filled(set.join(' '))
      .map((line) => `    ${line.replaceAll('~', ' ')}`)
      .join('\n');
  }

  walls(walls: Walls): string {
    this.know(walls.program);
    this.#prefix = 'w_';
    const text =
      snakeCased(`/* Walls for the motion of ${inComment(walls.tuning)}, made by Zygopod: a circle or a level box swept against segments, the model's, bit for
   bit with -ffp-contract=off. Include it after the file of the motion. */
typedef struct {
    const double *segments;
    double *courses, *near;
    double ${planeLists.map((name) => `${name}[${walls.planes}]`).join(', ')};
${wrapped(walls.fields.map(([field]) => field))
  .map((line) => `    double ${line};`)
  .join('\n')}
} Walls;

${this.routines(walls.program.routines)}
/* Walls, each a segment: x0, y0, x1, y1, in the same unit as the motion. courses has room for three numbers per wall, near for one; the
   game owns all of them. Call it again when walls have moved. */
void walls_start(Walls *w, const double *segments, int many, double *courses, double *near) {
    memset(w, 0, sizeof *w);
    w->segments = segments; w->courses = courses; w->near = near; w->many = many;
${this.#begins('w', walls.fields)}
    ${this.callOn('w', walls.courses, ['many'])};
}

/* Moves the body along its walls: for the game's contact. */
void walls_contact(Walls *w, Body *b) { ${this.callOn('w', walls.contact)}; }

/* True if the straight line from one place to another is clear for the body. */
int walls_isClear(Walls *w, double fromX, double fromY, double toX, double toY) {
    return ${this.callOn('w', walls.isClear, ['fromX', 'fromY', 'toX', 'toY'])};
}
`);
    this.#prefix = '';
    return text;
  }

  /** The hands, and what changes them. */
  #hands({ controls, swipes }: Motion): string {
    const many = controls.length;
    const all = (prefix: string, names: readonly string[], first: number) =>
      `enum { ${names.map((name, i) => `${prefix}${snake(name).toUpperCase()}${i === 0 ? ` = ${first}` : ''}`).join(', ')} };`;
    return `${filled(`/* ${handsWords} Initialise with Hands h = {0}. */`).join('\n   ')}
${filled(all('HANDS_', controls, 0)).join('\n       ')}
${all('SWIPE_', swipes, 1)}
typedef struct {
    double held[${many}], order[${many}], presses, pressed, stickX, stickY, pointX, pointY, swipe, spoke;
    int pointed, changed;
} Hands;
void hands_press(Hands *h, int control) {
    h->changed = 1;
    if (h->held[control] != 0.0) return;
    h->held[control] = h->order[control] = ++h->presses;
    if (control < ${STEERING}) h->spoke = 1.0;
    h->pressed = (double)((int)h->pressed | 1 << control);
}
void hands_release(Hands *h, int control) { h->changed = 1; h->held[control] = 0.0; if (control < ${STEERING}) h->spoke = 1.0; }
void hands_stick(Hands *h, double x, double y) { h->changed = 1; h->stickX = x; h->stickY = y; h->spoke = 2.0; }
void hands_point(Hands *h, double x, double y) { h->changed = 1; h->pointX = x; h->pointY = y; h->pointed = 1; }
void hands_swipe(Hands *h, int swipe) { h->changed = 1; h->swipe = swipe; }
`;
  }

  protected edgesText(settings: readonly (readonly [string, string])[]): string {
    const set = settings.map(([field, value]) => `b->${field} = ${value};`);
    const unused = edgeNames.filter((edge) => !settings.some(([, value]) => value.startsWith(edge))).map((edge) => `(void)${edge};`);
    return `
/* Holds a started body in an area, with the edges that the tuning uses. */
void motion_edges(Body *b, double left, double top, double right, double bottom) {
    ${[...set, ...unused].join(' ')}
}
`;
  }

  file(motion: Motion): string {
    this.know(motion.program);
    const asks = callbacksUsed(motion);
    const routines = this.routines(motion.program.routines);
    return snakeCased(`/* The motion of ${inComment(motion.tuning)}, made by Zygopod. Compile with -ffp-contract=off: every result is then the model's, bit for bit. */
#include <math.h>
#include <stdint.h>
#include <string.h>

${this.#hands(motion)}
${
  asks.includes('plan')
    ? `/* A path of the body's place: its points x, y, …, which the game owns and keeps as long as they are followed; reached: it ends at the
   destination; squeezed: it uses a gap without room for the margin. */
typedef struct {
    const double *points;
    int count, reached, squeezed;
} Way;

`
    : ''
}/* The state between ticks; game is for the game's own use, set it after motion_start. */
typedef struct {
    void *game;${asks.includes('plan') ? '\n    Way way;' : ''}
${wrapped(motion.fields.map(([field]) => field))
  .map((line) => `    double ${line};`)
  .join('\n')}
} Body;

/* The game's walls: moves the body from x, y towards velocityToX, velocityToY. Sets contactX and contactY to its place, contactVx and
   contactVy to its velocity, contactCount to its contacts, and contactStops to 1 if no speed is left. edgeLeft … are the game's. */
typedef void (*Contact)(Body *b);${
      asks.includes('isClear')
        ? '\n\n/* True if the straight line from one place to another is clear for the body. */\ntypedef int (*Clear)(Body *b, double fromX, double fromY, double toX, double toY);'
        : ''
    }${
      asks.includes('plan')
        ? '\n\n/* Writes a path from one place to another into the body; 0 if there is none, and then the path stays unchanged. */\ntypedef int (*Plan)(Body *b, double fromX, double fromY, double toX, double toY);'
        : ''
    }

${this.needed(cHelpers, routines)}${motion.program.tables.map(({ name, values }) => `static const double ${name}[] = { ${values.map((value) => this.number(value)).join(', ')} };\n`).join('')}
${routines}
void motion_free(Body *b) { b->contactX = b->velocityToX; b->contactY = b->velocityToY; } /* No walls: the whole displacement. */

void motion_start(Body *b) {
    memset(b, 0, sizeof *b);
${this.#begins('b', motion.fields)}
}

/* Places a started body, facing an angle in degrees: 0 east, 90 south. */
void motion_place(Body *b, double x, double y, double facing) { ${this.call(this.routineName(motion.place.name), ['x', 'y', 'facing'], motion.place)}; }
${this.edges(motion)}
void motion_tick(Body *b, Hands *h${this.callbacksOf(motion)}) {
${this.steps(motion)
  .map((line) => `    ${line}`)
  .join('\n')}
    h->pressed = 0.0; h->swipe = 0.0; h->changed = 0;
}
`);
  }
}
