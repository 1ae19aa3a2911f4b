import { inComment } from '@zygopod/core';
import { pascal } from '../../casing/casing.ts';
import type { Kind, Routine, StandardName, Used } from '../../fold/ir.ts';
import { Curly } from '../curly.ts';
import { callbacksUsed, handsWords, type Motion, planeLists, STEERING, tickWords, type Walls } from '../program.ts';

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
  protected readonly handed: Readonly<Record<Used, string>> = {
    body: 'Body b',
    hands: 'Hands h',
    walls: 'Walls w',
    contact: 'Action<Body> contact',
    isClear: 'Func<double, double, double, double, bool> isClear',
    plan: 'Func<double, double, double, double, Way, bool> plan',
  };
  protected override way = (part: string) => (part === 'count' ? '(b.way.points.Length / 2)' : `b.way.${part}`);
  protected waypoint = (at: string, offset: number) => `b.way.points[2 * ${at}${offset > 0 ? ' + 1' : ''}]`;

  protected override readonly depth = 1;

  protected head(routine: Routine): string {
    const type = (kind: Kind | null) => (kind === null ? 'void' : kind === 'truth' ? 'bool' : 'double');
    const parameters = this.parameters(routine, ({ name, kind }) => `${type(kind)} ${this.localName(name)}`);
    return `static ${type(routine.gives)} ${routine.name}(${parameters})`;
  }

  walls(walls: Walls): string {
    this.know(walls.program);
    return `// Walls for the motion of ${inComment(walls.tuning)}, made by Zygopod: a circle or a level box swept against segments, the model's, bit for bit.
using System;

/// <summary>Walls, each a segment: x0, y0, x1, y1, in the same unit as the motion. Pass Contact and IsClear to a tick.</summary>
public sealed class Walls {
    readonly double[] segments, courses, near;
    readonly double[] ${planeLists.map((name) => `${name} = new double[${walls.planes}]`).join(', ')};
    double ${walls.fields.map(([field, value]) => field + (value === 0 ? '' : ` = ${this.number(value)}`)).join(', ')};

    public Walls(double[] segments) {
        many = segments.Length / 4;
        this.segments = segments;
        courses = new double[3 * segments.Length / 4];
        near = new double[segments.Length / 4];
        ${this.callOn('this', walls.courses, ['many'])};
    }

    /// <summary>Moves the body along its walls.</summary>
    public void Contact(Body b) { ${this.callOn('this', walls.contact)}; }

    /// <summary>True if the straight line from one place to another is clear for the body.</summary>
    public bool IsClear(double fromX, double fromY, double toX, double toY) {
        return ${this.callOn('this', walls.isClear, ['fromX', 'fromY', 'toX', 'toY'])};
    }

${this.routines(walls.program.routines)}}
`;
  }

  file(motion: Motion): string {
    this.know(motion.program);
    const plans = callbacksUsed(motion).includes('plan');
    const printed = this.routines(motion.program.routines);
    return `// The motion of ${inComment(motion.tuning)}, made by Zygopod: every result is the model's, bit for bit.
using System;

public enum Control { ${motion.controls.map(pascal).join(', ')} }
public enum SwipeTo { ${motion.swipes.map((name, i) => `${pascal(name)}${i === 0 ? ' = 1' : ''}`).join(', ')} }

/// <summary>${handsWords}</summary>
public sealed class Hands {
    public double[] held = new double[${motion.controls.length}], order = new double[${motion.controls.length}];
    public double presses, pressed, stickX, stickY, pointX, pointY, swipe, spoke;
    public bool pointed, changed;

    public void Press(Control control) {
        int i = (int)control;
        changed = true;
        if (held[i] != 0.0) return;
        held[i] = order[i] = ++presses;
        if (i < ${STEERING}) spoke = 1.0;
        pressed = (int)pressed | 1 << i;
    }

    public void Release(Control control) { changed = true; held[(int)control] = 0.0; if ((int)control < ${STEERING}) spoke = 1.0; }
    /// <summary>The stick, each part from -1 to 1; y grows downwards.</summary>
    public void Stick(double x, double y) { changed = true; stickX = x; stickY = y; spoke = 2.0; }
    /// <summary>The pointer, in the world.</summary>
    public void Point(double x, double y) { changed = true; pointX = x; pointY = y; pointed = true; }
    public void Swipe(SwipeTo to) { changed = true; swipe = (int)to; }
}

${
  plans
    ? `/// <summary>A path of the body's place: its points x, y, …; reached: it ends at the destination; squeezed: it uses a gap without room for the margin. A plan writes it; if there is none, it returns false and leaves it unchanged.</summary>
public sealed class Way {
    public double[] points = new double[0];
    public bool reached, squeezed;
}

`
    : ''
}public sealed class Body {${plans ? '\n    public readonly Way way = new Way();' : ''}
${motion.fields.map(([field, value]) => `    public double ${field}${value === 0 ? '' : ` = ${this.number(value)}`};`).join('\n')}
}

public static class Motion {
${this.needed(csharpHelpers, printed)}
${motion.program.tables.map(({ name, values }) => `    static readonly double[] ${name} = { ${values.map((value) => this.number(value)).join(', ')} };\n`).join('')}
${printed}
    /// <summary>No walls: the whole displacement.</summary>
    public static void Free(Body b) {
        b.contactX = b.velocityToX;
        b.contactY = b.velocityToY;
    }

    /// <summary>Places a new body, facing an angle in degrees: 0 east, 90 south.</summary>
    public static void Place(Body b, double x, double y, double facing) { ${this.call(this.routineName(motion.place.name), ['x', 'y', 'facing'], motion.place)}; }
${this.edges(motion)}
    /// <summary>${tickWords(motion)}</summary>
    public static void Tick(Body b, Hands h${this.callbacksOf(motion)}) {
${this.steps(motion)
  .map((line) => `        ${line}`)
  .join('\n')}
        h.pressed = 0.0; h.swipe = 0.0; h.changed = false;
    }
}
`;
  }

  protected edgesText(settings: readonly (readonly [string, string])[]): string {
    return `
    /// <summary>Holds a body in an area, with the edges that the tuning uses.</summary>
    public static void Edges(Body b, double left, double top, double right, double bottom) {
${settings.map(([field, value]) => `        b.${field} = ${value};`).join('\n')}
    }
`;
  }
}
