import { inComment } from '@zygopod/core';
import { pascal, snake, snakeCased } from '../../casing/casing.ts';
import type { Callback, Kind, Routine, StandardName, Used } from '../../fold/ir.ts';
import { Curly } from '../curly.ts';
import { callbacksUsed, handsWords, type Motion, planeLists, STEERING, tickWords, type Walls } from '../program.ts';

const rustHelpers = {
  highWord: 'fn highWord(x: f64) -> f64 { (x.to_bits() >> 32) as f64 }\n',
  fromHighWord: 'fn fromHighWord(high: f64) -> f64 { f64::from_bits((high as u64) << 32) }\n',
  withHighWord: 'fn withHighWord(x: f64, high: f64) -> f64 { f64::from_bits((x.to_bits() & 0xffff_ffff) | ((high as u64) << 32)) }\n',
};

const lints = 'unused_mut, unused_variables, unused_assignments, unused_parens, dead_code, unreachable_code, clippy::all';

export class Rust extends Curly {
  readonly id = 'rust';
  readonly extension = 'rs';
  protected infinity = 'f64::INFINITY';
  protected override readonly bracketed = false;
  protected override control = (list: string, index: string) => `h.${list}[${index}]`;
  protected override table = (name: string, index: string) => `${snake(name).toUpperCase()}[${index}]`;
  protected override choice = (test: string, yes: string, no: string) => `(if ${test} { ${yes} } else { ${no} })`;
  protected override whole = (text: string) => `(${text} as i64)`;
  protected override real = (text: string) => `((${text}) as f64)`;
  protected override index = (text: string) => `${text} as usize`;
  protected override remainder = (left: string, right: string) => `((${left}) % (${right}))`;
  protected override standard = (name: StandardName, args: string[]) =>
    /Word/.test(name) ? `${name}(${args.join(', ')})` : `f64::${name}(${args.join(', ')})`;
  protected override local = (name: string, value: string, kind: Kind) =>
    `let mut ${name}: ${kind === 'truth' ? 'bool' : 'f64'} = ${value};`;
  protected readonly handed: Readonly<Record<Used, string>> = {
    body: 'b: &mut Body',
    hands: 'h: &Hands',
    walls: 'w: &mut Walls',
    contact: 'contact: &mut dyn FnMut(&mut Body)',
    isClear: 'isClear: &mut dyn FnMut(f64, f64, f64, f64) -> bool',
    plan: 'plan: &mut dyn FnMut(f64, f64, f64, f64, &mut Way) -> bool',
  };
  // Arguments are computed before the body is borrowed.
  protected override arranged(own: readonly string[], { uses }: Pick<Routine, 'uses'>, text: Readonly<Record<Used, string>>): string {
    const order = ['hands', 'body', 'walls', 'contact', 'isClear', 'plan'] as const;
    return [...own, ...order.filter((one) => uses.has(one)).map((one) => text[one])].join(', ');
  }
  protected override way = (part: string) => (part === 'count' ? '((b.way.points.len() / 2) as f64)' : `b.way.${part}`);
  protected waypoint = (at: string, offset: number) => `b.way.points[2 * (${at})${offset > 0 ? ' + 1' : ''}]`;
  protected override ask = (of: Callback, args: readonly string[]) =>
    of === 'contact' ? 'contact(b)' : `${of}(${[...args, ...(of === 'plan' ? ['&mut b.way'] : [])].join(', ')})`;

  protected head(routine: Routine): string {
    const type = (kind: Kind) => (kind === 'truth' ? 'bool' : 'f64');
    const parameters = this.parameters(routine, ({ name, kind }) => `mut ${this.localName(name)}: ${type(kind)}`);
    return `fn ${routine.name}(${parameters})${routine.gives ? ` -> ${type(routine.gives)}` : ''}`;
  }

  walls(walls: Walls): string {
    this.know(walls.program);
    return snakeCased(`// Walls for the motion of ${inComment(walls.tuning)}, made by Zygopod: a circle or a level box swept against segments, the model's, bit for bit.
#![allow(${lints})]

use super::motion::Body;

/// Walls, each a segment: x0, y0, x1, y1, in the same unit as the motion.
#[derive(Clone, Debug)]
pub struct Walls {
    segments: Vec<f64>,
    courses: Vec<f64>,
    near: Vec<f64>,
${planeLists.map((name) => `    ${name}: [f64; ${walls.planes}],`).join('\n')}
${walls.fields.map(([field]) => `    ${field}: f64,`).join('\n')}
}

impl Walls {
    pub fn new(segments: Vec<f64>) -> Walls {
        let many = segments.len() / 4;
        let mut walls = Walls {
            segments,
            courses: vec![0.0; 3 * many],
            near: vec![0.0; many],
${planeLists.map((name) => `            ${name}: [0.0; ${walls.planes}],`).join('\n')}
${walls.fields.map(([field, value]) => `            ${field}: ${field === 'many' ? 'many as f64' : this.number(value)},`).join('\n')}
        };
        ${this.callOn('&mut walls', walls.courses, ['many as f64'])};
        walls
    }

    /// Moves the body along its walls.
    pub fn contact(&mut self, b: &mut Body) {
        ${this.callOn('self', walls.contact)}
    }

    /// True if the straight line from one place to another is clear for the body.
    pub fn isClear(&mut self, fromX: f64, fromY: f64, toX: f64, toY: f64) -> bool {
        ${this.callOn('self', walls.isClear, ['fromX', 'fromY', 'toX', 'toY'])}
    }
}

${this.routines(walls.program.routines)}`);
  }

  file(motion: Motion): string {
    this.know(motion.program);
    const plans = callbacksUsed(motion).includes('plan');
    const printed = this.routines(motion.program.routines);
    return snakeCased(`// The motion of ${inComment(motion.tuning)}, made by Zygopod: every result is the model's, bit for bit.
#![allow(${lints})]

#[derive(Clone, Copy, Debug)]
pub enum Control { ${motion.controls.map(pascal).join(', ')} }
#[derive(Clone, Copy, Debug)]
pub enum Swipe { ${motion.swipes.map((name, i) => `${pascal(name)}${i === 0 ? ' = 1' : ''}`).join(', ')} }

/// ${handsWords}
#[derive(Clone, Debug, Default)]
pub struct Hands {
    pub presses: f64,
    pub held: [f64; ${motion.controls.length}],
    pub order: [f64; ${motion.controls.length}],
    pub pressed: f64,
    pub stickX: f64,
    pub stickY: f64,
    pub pointX: f64,
    pub pointY: f64,
    pub swipe: f64,
    pub spoke: f64,
    pub pointed: bool,
    pub changed: bool,
}

impl Hands {
    pub fn press(&mut self, control: Control) {
        let i = control as usize;
        self.changed = true;
        if self.held[i] != 0.0 { return; }
        self.presses += 1.0;
        self.held[i] = self.presses;
        self.order[i] = self.presses;
        if i < ${STEERING} { self.spoke = 1.0; }
        self.pressed = (self.pressed as i64 | 1 << i) as f64;
    }

    pub fn release(&mut self, control: Control) {
        self.changed = true;
        self.held[control as usize] = 0.0;
        if (control as usize) < ${STEERING} { self.spoke = 1.0; }
    }

    /// The stick, each part from -1 to 1; y grows downwards.
    pub fn stick(&mut self, x: f64, y: f64) { self.changed = true; self.stickX = x; self.stickY = y; self.spoke = 2.0; }
    /// The pointer, in the world.
    pub fn point(&mut self, x: f64, y: f64) { self.changed = true; self.pointX = x; self.pointY = y; self.pointed = true; }
    pub fn swipe(&mut self, to: Swipe) { self.changed = true; self.swipe = to as i32 as f64; }
}

${
  plans
    ? `/// A path of the body's place: its points x, y, …; reached: it ends at the destination; squeezed: it uses a gap without room
/// for the margin. A plan writes it; if there is none, it returns false and leaves it unchanged.
#[derive(Clone, Debug, Default)]
pub struct Way {
    pub points: Vec<f64>,
    pub reached: bool,
    pub squeezed: bool,
}

`
    : ''
}#[derive(Clone, Debug, Default)]
pub struct Body {${plans ? '\n    pub way: Way,' : ''}
${motion.fields.map(([field]) => `    pub ${field}: f64,`).join('\n')}
}

${this.needed(rustHelpers, printed)}${motion.program.tables.map(({ name, values }) => `const ${snake(name).toUpperCase()}: [f64; ${values.length}] = [${values.map((value) => this.number(value)).join(', ')}];\n`).join('')}
${printed}
/// No walls: the whole displacement.
pub fn motion_free(b: &mut Body) {
    b.contactX = b.velocityToX;
    b.contactY = b.velocityToY;
}

pub fn motion_start() -> Body {
    Body {
${motion.fields
  .filter(([, value]) => value !== 0)
  .map(([field, value]) => `        ${field}: ${this.number(value)},`)
  .join('\n')}
        ..Default::default()
    }
}

/// Places a started body, facing an angle in degrees: 0 east, 90 south.
pub fn motion_place(b: &mut Body, x: f64, y: f64, facing: f64) {
    ${this.call(this.routineName(motion.place.name), ['x', 'y', 'facing'], motion.place)};
}
${this.edges(motion)}
/// ${tickWords(motion, '`contact`')}
pub fn motion_tick(b: &mut Body, h: &mut Hands${this.callbacksOf(motion)}) {
${this.steps(motion)
  .map((line) => `    ${line}`)
  .join('\n')}
    h.pressed = 0.0; h.swipe = 0.0; h.changed = false;
}
`);
  }

  protected edgesText(settings: readonly (readonly [string, string])[]): string {
    return `
/// Holds a started body in an area, with the edges that the tuning uses.
pub fn motion_edges(b: &mut Body, left: f64, top: f64, right: f64, bottom: f64) {
${settings.map(([field, value]) => `    b.${field} = ${value};`).join('\n')}
}
`;
  }
}
