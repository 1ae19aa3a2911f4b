import type { Kind, StandardName } from '../fold/ir.ts';
import { Curly } from './curly.ts';
import { asksGame, type Motion } from './printer.ts';

const rustHelpers = {
  highWord: 'fn highWord(x: f64) -> f64 { (x.to_bits() >> 32) as f64 }\n',
  fromHighWord: 'fn fromHighWord(high: f64) -> f64 { f64::from_bits((high as u64) << 32) }\n',
  withHighWord: 'fn withHighWord(x: f64, high: f64) -> f64 { f64::from_bits((x.to_bits() & 0xffff_ffff) | ((high as u64) << 32)) }\n',
};

export class Rust extends Curly {
  readonly id = 'rust';
  readonly extension = 'rs';
  protected infinity = 'f64::INFINITY';
  protected override readonly bracketed = false;
  protected override control = (list: string, index: string) => `h.${list}[${index}]`;
  protected override table = (name: string, index: string) => `${name.toUpperCase()}[${index}]`;
  protected override choice = (test: string, yes: string, no: string) => `(if ${test} { ${yes} } else { ${no} })`;
  protected override whole = (text: string) => `(${text} as i64)`;
  protected override real = (text: string) => `((${text}) as f64)`;
  protected override index = (text: string) => `${text} as usize`;
  protected override remainder = (left: string, right: string) => `((${left}) % (${right}))`;
  protected override standard = (name: StandardName, args: string[]) =>
    /Word/.test(name) ? `${name}(${args.join(', ')})` : `f64::${name}(${args.join(', ')})`;
  protected override local = (name: string, value: string, kind: Kind) =>
    `let mut ${name}: ${kind === 'truth' ? 'bool' : 'f64'} = ${value};`;
  protected override localName = (name: string) =>
    ['b', 'h', 'as', 'type', 'in', 'move', 'loop', 'where', 'ref', 'final', 'use', 'match'].includes(name) ? `${name}_` : name;
  // What is handed over is worked out before the body is lent.
  protected override call(
    name: string,
    args: string[],
    { usesBody, usesHands, usesClear }: { usesBody: boolean; usesHands: boolean; usesClear: boolean },
  ): string {
    return `${name}(${[...args, ...(usesHands ? ['h'] : []), ...(usesBody ? ['b'] : []), ...(usesClear ? ['isClear'] : [])].join(', ')})`;
  }

  file(motion: Motion): string {
    this.know(motion.program);
    const type = (kind: Kind) => (kind === 'truth' ? 'bool' : 'f64');
    const routines = motion.program.routines.map((routine) => {
      const parameters = [
        ...routine.parameters.map(({ name, kind }) => `mut ${this.localName(name)}: ${type(kind)}`),
        ...(routine.usesHands ? ['h: &Hands'] : []),
        ...(routine.usesBody ? ['b: &mut Body'] : []),
        ...(routine.usesClear ? ['isClear: &mut dyn FnMut(f64, f64, f64, f64) -> bool'] : []),
      ];
      return [
        ...this.doc(routine, 0),
        ...this.routine(
          `fn ${routine.name}(${parameters.join(', ')})${routine.gives ? ` -> ${type(routine.gives)}` : ''}`,
          routine.body,
          0,
        ),
        '',
      ].join('\n');
    });
    const printed = routines.join('\n');
    return `// The motion of ${motion.tuning.replace(/[\r\n]/g, ' ')}, made by Zygopod: every result is the model's, bit for bit.
#![allow(non_snake_case, unused_mut, unused_variables, unused_assignments, unused_parens, dead_code, unreachable_code, clippy::all)]

/// The hands: the number of the press that holds a control down (0: up), of its last press, and a bit for each that went down in this tick.
/// ${motion.controls.map((name, i) => `${i} ${name}`).join(', ')}
#[derive(Clone, Debug, Default)]
pub struct Hands {
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

#[derive(Clone, Debug, Default)]
pub struct Body {
${motion.fields.map(([field]) => `    pub ${field}: f64,`).join('\n')}
}

${this.needed(rustHelpers, printed)}${motion.program.tables.map(({ name, values }) => `const ${name.toUpperCase()}: [f64; ${values.length}] = [${values.map((value) => this.number(value)).join(', ')}];\n`).join('')}
${printed}
/// Nothing is in the way.
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

/// A tick; \`contact\` takes the body towards velocityToX and velocityToY as far as the game's walls let it: it sets contactX, contactY, contactVx, contactVy and contactCount.
pub fn motion_tick(b: &mut Body, h: &Hands, contact: &mut dyn FnMut(&mut Body)${asksGame(motion) ? ', isClear: &mut dyn FnMut(f64, f64, f64, f64) -> bool' : ''}) {
${this.steps(motion, 'contact(b);')
  .map((line) => `    ${line}`)
  .join('\n')}
}
`;
  }
}
