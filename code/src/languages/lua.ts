import type { Kind, Routine, Sign, StandardName, Statement } from '../fold/ir.ts';
import { asksGame, docOf, filled, type Motion, Printer } from './printer.ts';

const luaHelpers = {
  'M.floor': `function M.floor(x) return x - x == 0 and math.floor(x) + 0.0 or x end
`,
  'M.ceil': `function M.ceil(x) return x - x == 0 and math.ceil(x) + 0.0 or x end
`,
  'M.trunc': `function M.trunc(x) return x < 0 and M.ceil(x) or M.floor(x) end
`,
  'M.highWord': `function M.highWord(x) return string.unpack("<I8", string.pack("<d", x)) >> 32 end
`,
  'M.fromHighWord': `function M.fromHighWord(high) return (string.unpack("<d", string.pack("<I8", math.tointeger(high) << 32))) end
`,
  'M.withHighWord': `function M.withHighWord(x, high)
  local low = string.unpack("<I8", string.pack("<d", x)) & 0xffffffff
  return (string.unpack("<d", string.pack("<I8", math.tointeger(high) << 32 | low)))
end
`,
};

export class Lua extends Printer {
  readonly id = 'lua';
  readonly extension = 'lua';
  protected readonly indent = '  ';
  protected readonly words = { and: 'and', or: 'or', unlike: '~=', like: '==', not: 'not ', yes: 'true', no: 'false' };
  protected infinity = 'math.huge';
  #loops = 0;
  protected control = (list: string, index: string) => `h.${list}[${index} + 1]`;
  protected table = (name: string, index: string) => `${name}[${index} + 1]`;
  protected choice = (test: string, yes: string, no: string, kind: Kind) =>
    kind === 'truth' ? `((${test}) and (${yes}) or not (${test}) and (${no}))` : `((${test}) and ${yes} or ${no})`;
  protected whole = (text: string) => text;
  protected real = (text: string) => `(${text})`;
  protected index = (text: string) => text;
  protected override bit = (sign: Sign, left: string, right: string) =>
    `${left} ${sign === '>>>' ? '>>' : sign === '^' ? '~' : sign} ${right}`;
  protected override remainder = (left: string, right: string) => `math.fmod(${left}, ${right})`;
  protected standard = (name: StandardName, args: string[]) => {
    const own: Partial<Record<StandardName, string>> = {
      trunc: 'trunc',
      highWord: 'highWord',
      fromHighWord: 'fromHighWord',
      withHighWord: 'withHighWord',
      floor: 'floor',
      ceil: 'ceil',
    };
    return `${own[name] ? `M.${own[name]}` : `math.${name}`}(${args.join(', ')})`;
  };
  protected override localName = (name: string) =>
    ['end', 'repeat', 'until', 'local', 'nil', 'not', 'or', 'and', 'then', 'b', 'h'].includes(name) ? `${name}_` : name;
  protected override routineName = (name: string) => `M.${name}`;

  protected statement(s: Statement, depth: number, steps: Statement[]): string[] {
    switch (s.is) {
      case 'local':
        return [this.at(depth, `local ${this.localName(s.name)} = ${this.expression(s.value)}`)];
      case 'set':
        return [this.at(depth, `${this.expression(s.target)} = ${this.expression(s.value)}`)];
      case 'if':
        return [
          this.at(depth, `if ${this.expression(s.test)} then`),
          ...this.statements(s.yes, depth + 1, steps),
          ...this.orElse(s.no, depth, steps, 'elseif', () => [this.at(depth, 'else'), ...this.statements(s.no, depth + 1, steps)], 1),
          this.at(depth, 'end'),
        ];
      case 'loop': {
        const label = `next${++this.#loops}`;
        const jump: Statement[] = [{ is: 'do', value: { is: 'local', name: `goto ${label}`, kind: 'number' } }];
        const body = this.statements(s.body, depth + 2, jump);
        const head = this.at(depth, `while ${this.expression(s.test)} do`);
        // Without a way on to the next round there is nothing to lead to it.
        if (!body.some((line) => line.trim() === `goto ${label}`))
          return [head, ...this.statements([...s.body, ...s.step], depth + 1, jump), this.at(depth, 'end')];
        return [
          head,
          this.at(depth + 1, 'do'),
          ...body,
          this.at(depth + 1, 'end'),
          this.at(depth + 1, `::${label}::`),
          ...this.statements(s.step, depth + 1),
          this.at(depth, 'end'),
        ];
      }
      case 'next':
        return this.statements(steps, depth);
      case 'leave':
        return [this.at(depth, 'break')];
      case 'return':
        return [this.at(depth, s.value ? `do return ${this.expression(s.value)} end` : 'do return end')];
      case 'do':
        return [this.at(depth, this.expression(s.value))];
    }
  }

  file(motion: Motion): string {
    this.know(motion.program);
    const head = (routine: Routine) =>
      `function M.${routine.name}(${[...(routine.usesBody ? ['b'] : []), ...(routine.usesHands ? ['h'] : []), ...routine.parameters.map(({ name }) => this.localName(name)), ...(routine.usesClear ? ['isClear'] : [])].join(', ')})`;
    const doc = (routine: Routine) => filled(docOf(routine)).map((line) => `-- ${line}`);
    const tick = motion.tick.map((routine) => (routine ? this.call(this.routineName(routine.name), [], routine) : 'contact(b)'));
    const routines = motion.program.routines
      .map((routine) => [...doc(routine), head(routine), ...this.statements(routine.body, 1), 'end', ''].join('\n'))
      .join('\n');
    return `-- The motion of ${motion.tuning.replace(/[\r\n]/g, ' ')}, made by Zygopod for Lua 5.3 and newer: every result is the model's, bit for bit.
-- luacheck: no max line length
-- luacheck: ignore 581 (the opposite of x < y is not x >= y where one of them is no number)
local M = {}

-- The hands: the number of the press that holds a control down (0: up), of its last press, and a bit for each that went down in this tick.
-- ${motion.controls.map((name, i) => `${i + 1} ${name}`).join(', ')}
function M.hands()
  local h = { held = {}, order = {}, pressed = 0, stickX = 0.0, stickY = 0.0, pointX = 0.0, pointY = 0.0, swipe = 0.0, spoke = 0.0, pointed = false, changed = false }
  for i = 1, ${motion.controls.length} do h.held[i], h.order[i] = 0.0, 0.0 end
  return h
end

${this.needed(luaHelpers, routines)}${motion.program.tables.map(({ name, values }) => `local ${name} = { ${values.map((value) => this.number(value)).join(', ')} }\n`).join('')}
${routines}
-- Nothing is in the way.
function M.free(b)
  b.contactX, b.contactY = b.velocityToX, b.velocityToY
end

function M.start()
  return {
${motion.fields.map(([field, value]) => `    ${field} = ${this.number(value)},`).join('\n')}
  }
end

-- A tick; contact takes the body towards velocityToX and velocityToY as far as the game's walls let it: it sets contactX, contactY, contactVx, contactVy and contactCount.
function M.tick(b, h, contact${asksGame(motion) ? ', isClear' : ''})
${tick.map((line) => `  ${line}`).join('\n')}
end

return M
`;
  }
}
