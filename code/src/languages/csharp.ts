import type { Kind, StandardName } from '../fold/ir.ts';
import { Curly } from './curly.ts';
import { asksGame, type Motion } from './printer.ts';

const capital = (text: string) => (text[0]?.toUpperCase() ?? '') + text.slice(1);

const csharpHelpers = {
  highWord: '    static double highWord(double x) { return (double)((ulong)BitConverter.DoubleToInt64Bits(x) >> 32); }\n',
  fromHighWord: '    static double fromHighWord(double high) { return BitConverter.Int64BitsToDouble((long)high << 32); }\n',
  withHighWord:
    '    static double withHighWord(double x, double high) { return BitConverter.Int64BitsToDouble((BitConverter.DoubleToInt64Bits(x) & 0xffffffffL) | ((long)high << 32)); }\n',
};

export class CSharp extends Curly {
  readonly id = 'csharp';
  readonly extension = 'cs';
  protected override readonly types = ['double ', 'bool '];
  protected infinity = 'double.PositiveInfinity';
  protected override control = (list: string, index: string) => `h.${list}[${index}]`;
  protected override table = (name: string, index: string) => `${name}[${index}]`;
  protected override whole = (text: string) => `(long)${text}`;
  protected override real = (text: string) => `(double)(${text})`;
  protected override index = (text: string) => `(int)${text}`;
  protected override shift = (text: string) => `(int)${text}`;
  protected override wholeNumber = (value: number, isShift: boolean) => (isShift ? String(value) : `${value}L`);
  protected override remainder = (left: string, right: string) => `((${left}) % (${right}))`;
  protected override standard = (name: StandardName, args: string[]) =>
    `${/Word/.test(name) ? name : `Math.${name === 'trunc' ? 'Truncate' : name === 'ceil' ? 'Ceiling' : capital(name)}`}(${args.join(', ')})`;
  protected override local = (name: string, value: string, kind: Kind) => `${kind === 'truth' ? 'bool' : 'double'} ${name} = ${value};`;
  protected override localName = (name: string) =>
    ['b', 'h', 'in', 'out', 'ref', 'is', 'as', 'base', 'long', 'double', 'fixed', 'lock', 'params', 'this'].includes(name)
      ? `${name}_`
      : name;

  file(motion: Motion): string {
    this.know(motion.program);
    const type = (kind: Kind | null) => (kind === null ? 'void' : kind === 'truth' ? 'bool' : 'double');
    const routines = motion.program.routines.map((routine) => {
      const parameters = [
        ...(routine.usesBody ? ['Body b'] : []),
        ...(routine.usesHands ? ['Hands h'] : []),
        ...routine.parameters.map(({ name, kind }) => `${type(kind)} ${this.localName(name)}`),
        ...(routine.usesClear ? ['Func<double, double, double, double, bool> isClear'] : []),
      ];
      return [
        ...this.doc(routine, 1),
        ...this.routine(`static ${type(routine.gives)} ${routine.name}(${parameters.join(', ')})`, routine.body, 1),
        '',
      ].join('\n');
    });
    const printed = routines.join('\n');
    return `// The motion of ${motion.tuning.replace(/[\r\n]/g, ' ')}, made by Zygopod: every result is the model's, bit for bit.
using System;

/// <summary>The number of the press that holds a control down (0: up), of its last press, and a bit for each that went down in this tick:
/// ${motion.controls.map((name, i) => `${i} ${name}`).join(', ')}</summary>
public sealed class Hands {
    public double[] held = new double[${motion.controls.length}], order = new double[${motion.controls.length}];
    public double pressed, stickX, stickY, pointX, pointY, swipe, spoke;
    public bool pointed, changed;
}

public sealed class Body {
${motion.fields.map(([field, value]) => `    public double ${field}${value === 0 ? '' : ` = ${this.number(value)}`};`).join('\n')}
}

public static class Motion {
${this.needed(csharpHelpers, printed)}
${motion.program.tables.map(({ name, values }) => `    static readonly double[] ${name} = { ${values.map((value) => this.number(value)).join(', ')} };\n`).join('')}
${printed}
    /// <summary>Nothing is in the way.</summary>
    public static void Free(Body b) {
        b.contactX = b.velocityToX;
        b.contactY = b.velocityToY;
    }

    /// <summary>A tick; contact takes the body towards velocityToX and velocityToY as far as the game's walls let it: it sets contactX, contactY, contactVx, contactVy and contactCount.</summary>
    public static void Tick(Body b, Hands h, Action<Body> contact${asksGame(motion) ? ', Func<double, double, double, double, bool> isClear' : ''}) {
${this.steps(motion, 'contact(b);')
  .map((line) => `        ${line}`)
  .join('\n')}
    }
}
`;
  }
}
