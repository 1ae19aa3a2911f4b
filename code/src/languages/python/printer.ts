import { inDocstring } from '@zygopod/core';
import { snakeCased } from '../../casing/casing.ts';
import type { Routine, StandardName, Statement, Used } from '../../fold/ir.ts';
import { Printer } from '../printer.ts';
import { callbacksUsed, docOf, filled, handsWords, type Motion, planeLists, STEERING, tickWords, type Walls } from '../program.ts';

const pythonHelpers = {
  _over: `def _over(a, b):
    if b != 0.0:
        return a / b
    return math.nan if a == 0.0 or a != a else math.copysign(math.inf, a) * math.copysign(1.0, b)


`,
  _root: `def _root(x):
    return math.sqrt(x) if x >= 0.0 else math.nan


`,
  _floor: `def _floor(x):
    return float(math.floor(x)) if math.isfinite(x) else x


`,
  _ceil: `def _ceil(x):
    return float(math.ceil(x)) if math.isfinite(x) else x


`,
  _trunc: `def _trunc(x):
    return float(math.trunc(x)) if math.isfinite(x) else x


`,
  _highWord: `def _highWord(x):
    return float(struct.unpack("<Q", struct.pack("<d", x))[0] >> 32)


`,
  _fromHighWord: `def _fromHighWord(high):
    return struct.unpack("<d", struct.pack("<Q", int(high) << 32))[0]


`,
  _withHighWord: `def _withHighWord(x, high):
    low = struct.unpack("<Q", struct.pack("<d", x))[0] & 0xFFFFFFFF
    return struct.unpack("<d", struct.pack("<Q", int(high) << 32 | low))[0]


`,
};

/** Stand-ins for arguments that the game does not pass. */
const defaults = { contact: '=motion_free', isClear: '=lambda *_: True', plan: '=motion_straight' };

export class Python extends Printer {
  readonly id = 'python';
  readonly extension = 'py';
  protected readonly indent = '    ';
  protected readonly words = { and: 'and', or: 'or', unlike: '!=', like: '==', not: 'not ', yes: 'True', no: 'False' };
  protected infinity = 'math.inf';
  protected control = (list: string, index: string) => `h.${list}[${index}]`;
  protected table = (name: string, index: string) => `${name}[${index}]`;
  protected choice = (test: string, yes: string, no: string) => `(${yes} if ${test} else ${no})`;
  protected whole = (text: string) => `int${text.startsWith('(') && text.endsWith(')') ? text : `(${text})`}`;
  protected real = (text: string) => `float(${text})`;
  protected index = (text: string) => `int(${text})`;
  protected override remainder = (left: string, right: string) => `math.fmod(${left}, ${right})`;
  protected override divide = (left: string, right: string, isSafe: boolean) =>
    isSafe ? `${left} / ${right}` : `_over(${left}, ${right})`;
  protected standard = (name: StandardName, args: string[]) => {
    const own: Partial<Record<StandardName, string>> = {
      sqrt: '_root',
      floor: '_floor',
      ceil: '_ceil',
      trunc: '_trunc',
      abs: 'abs',
      min: 'min',
      max: 'max',
    };
    return `${own[name] ?? `_${name}`}(${args.join(', ')})`;
  };
  protected readonly handed: Readonly<Record<Used, string>> = this.names;
  protected override way = (part: string) => (part === 'count' ? 'float(len(b.way.points) // 2)' : `b.way.${part}`);
  protected waypoint = (at: string, offset: number) => `b.way.points[2 * ${at}${offset > 0 ? ' + 1' : ''}]`;
  protected override routineName = (name: string) => `_${name}`;

  protected statement(s: Statement, depth: number, steps: Statement[]): string[] {
    const block = (all: readonly Statement[], own: Statement[]) => {
      const lines = this.statements(all, depth + 1, own);
      return lines.length > 0 ? lines : [this.at(depth + 1, 'pass')];
    };
    switch (s.is) {
      case 'local':
        return [this.at(depth, `${this.localName(s.name)} = ${this.expression(s.value)}`)];
      case 'set':
        return [this.at(depth, `${this.expression(s.target)} = ${this.expression(s.value)}`)];
      case 'if':
        return [
          this.at(depth, `if ${this.expression(s.test)}:`),
          ...block(s.yes, steps),
          ...this.orElse(s.no, depth, steps, 'elif', () => [this.at(depth, 'else:'), ...block(s.no, steps)]),
        ];
      case 'loop':
        return [this.at(depth, `while ${this.expression(s.test)}:`), ...block([...s.body, ...s.step], s.step)];
      case 'next':
        return [...this.statements(steps, depth), this.at(depth, 'continue')];
      case 'leave':
        return [this.at(depth, 'break')];
      case 'return':
        return [this.at(depth, s.value ? `return ${this.expression(s.value)}` : 'return')];
      case 'do':
        return [this.at(depth, this.expression(s.value))];
    }
  }

  #routines(routines: readonly Routine[]): string {
    const head = (routine: Routine) => `def _${routine.name}(${this.parameters(routine, ({ name }) => this.localName(name))}):`;
    const doc = (routine: Routine) => [`    """${filled(inDocstring(docOf(routine))).join('\n    ')}"""`];
    return routines
      .map((routine) =>
        ['', head(routine), ...doc(routine), ...(routine.body.length > 0 ? this.statements(routine.body, 1) : ['    pass']), ''].join('\n'),
      )
      .join('\n');
  }

  walls(walls: Walls): string {
    this.know(walls.program);
    const routines = this.#routines(walls.program.routines);
    return snakeCased(`"""Walls for the motion of ${inDocstring(walls.tuning)}, made by Zygopod: a circle or a level box swept against segments, bit for bit the model's."""
# flake8: noqa: E501
import math


class Walls:
    """Walls, each a segment: x0, y0, x1, y1, in the same unit as the motion. Pass contact and isClear to a tick."""

    def __init__(self, segments):
        self.segments = segments
        self.courses = [0.0] * (len(segments) // 4 * 3)
        self.near = [0.0] * (len(segments) // 4)
${planeLists.map((name) => `        self.${name} = [0.0] * ${walls.planes}`).join('\n')}
${walls.fields.map(([field, value]) => `        self.${field} = ${field === 'many' ? 'len(segments) // 4' : this.number(value)}`).join('\n')}
        ${this.callOn('self', walls.courses, ['self.many'])}

    def contact(self, b):
        """Moves the body along its walls."""
        ${this.callOn('self', walls.contact)}

    def isClear(self, fromX, fromY, toX, toY):
        """True if the straight line from one place to another is clear for the body."""
        return ${this.callOn('self', walls.isClear, ['fromX', 'fromY', 'toX', 'toY'])}


${this.needed(pythonHelpers, routines)}${routines.trimStart()}`);
  }

  file(motion: Motion): string {
    this.know(motion.program);
    const plans = callbacksUsed(motion).includes('plan');
    const tick = motion.tick.map((routine) => this.call(this.routineName(routine.name), [], routine));
    const routines = this.#routines(motion.program.routines);
    return snakeCased(`"""The motion of ${inDocstring(motion.tuning)}, made by Zygopod: every result is the model's, bit for bit."""
# flake8: noqa: E501
import math
${routines.includes('HighWord(') || routines.includes('highWord(') ? 'import struct\n' : ''}

CONTROLS = (${motion.controls.map((name) => `"${name}"`).join(', ')})
SWIPES = (${motion.swipes.map((name) => `"${name}"`).join(', ')})


class Hands:
    """${handsWords}"""

    __slots__ = ("held", "order", "presses", "pressed", "stick_x", "stick_y", "point_x", "point_y", "swipe", "spoke", "pointed", "changed")

    def __init__(self):
        self.held = [0.0] * ${motion.controls.length}
        self.order = [0.0] * ${motion.controls.length}
        self.presses = self.pressed = self.stickX = self.stickY = self.pointX = self.pointY = self.swipe = self.spoke = 0.0
        self.pointed = self.changed = False

    def press(self, control):
        i = CONTROLS.index(control)
        self.changed = True
        if self.held[i] != 0:
            return
        self.presses += 1
        self.held[i] = self.order[i] = self.presses
        if i < ${STEERING}:
            self.spoke = 1.0
        self.pressed = float(int(self.pressed) | 1 << i)

    def release(self, control):
        i = CONTROLS.index(control)
        self.changed = True
        self.held[i] = 0.0
        if i < ${STEERING}:
            self.spoke = 1.0

    def stick(self, x, y):
        """The stick, each part from -1 to 1; y grows downwards."""
        self.changed, self.stickX, self.stickY, self.spoke = True, float(x), float(y), 2.0

    def point(self, x, y):
        """The pointer, in the world."""
        self.changed, self.pointX, self.pointY, self.pointed = True, float(x), float(y), True

    def swipe_to(self, to):
        self.changed, self.swipe = True, float(SWIPES.index(to) + 1)


${
  plans
    ? `class Way:
    """A path of the body's place: its points x, y, …; reached: it ends at the destination; squeezed: it uses a gap without room
    for the margin. A plan writes it; if there is none, it returns False and leaves it unchanged."""

    def __init__(self):
        self.points = []
        self.reached = self.squeezed = False


`
    : ''
}class Body:
    """The state between ticks."""

    def __init__(self):${plans ? '\n        self.way = Way()' : ''}
${motion.fields.map(([field, value]) => `        self.${field} = ${this.number(value)}`).join('\n')}


${this.needed(pythonHelpers, routines)}${motion.program.tables.map(({ name, values }) => `${name} = (${values.map((value) => this.number(value)).join(', ')},)\n`).join('')}
${routines}

def motion_free(b):
    """No walls: the whole displacement."""
    b.contactX = b.velocityToX
    b.contactY = b.velocityToY


${
  plans
    ? `def motion_straight(fromX, fromY, toX, toY, way):
    """A straight path."""
    way.points, way.reached, way.squeezed = [fromX, fromY, toX, toY], True, False
    return True


`
    : ''
}def motion_place(b, x, y, facing):
    """Places a new body, facing an angle in degrees: 0 east, 90 south."""
    x, y, facing = float(x), float(y), float(facing)
    ${this.call(this.routineName(motion.place.name), ['x', 'y', 'facing'], motion.place)}


${this.edges(motion)}def motion_tick(b, h${callbacksUsed(motion)
      .map((one) => `, ${one}${defaults[one]}`)
      .join('')}):
    """${tickWords(motion, '`contact`')}"""
${tick.map((line) => `    ${line}`).join('\n')}
    h.pressed = h.swipe = 0.0
    h.changed = False
`);
  }

  protected edgesText(settings: readonly (readonly [string, string])[]): string {
    return `def motion_edges(b, left, top, right, bottom):
    """Holds a body in an area, with the edges that the tuning uses."""
${settings.map(([field, value]) => `    b.${field} = ${value}`).join('\n')}


`;
  }
}
