import { inComment } from '@zygopod/core';
import { snakeCased } from '../../casing/casing.ts';
import type { Kind, Routine, Sign, StandardName, Statement, Used } from '../../fold/ir.ts';
import { Printer } from '../printer.ts';
import {
  callbacksUsed,
  docOf,
  edgeNames,
  filled,
  handsWords,
  type Motion,
  planeLists,
  STEERING,
  tickWords,
  type Walls,
} from '../program.ts';

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
  protected readonly handed: Readonly<Record<Used, string>> = this.names;
  protected override way = (part: string) => (part === 'count' ? '(#b.way.points / 2)' : `b.way.${part}`);
  protected waypoint = (at: string, offset: number) => `b.way.points[2 * ${at} + ${offset + 1}]`;
  protected override list = (name: string, at: string) => `w.${name}[${at} + 1]`;
  protected override routineName = (name: string) => `M.${name}`;

  protected statement(s: Statement, depth: number, steps: Statement[]): string[] {
    switch (s.is) {
      case 'local':
        return [this.at(depth, `local ${this.localName(s.name)}${s.given ? '' : ` = ${this.expression(s.value)}`}`)];
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
        // Without a `continue`, no label is needed for one.
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

  #routines(routines: readonly Routine[]): string {
    const head = (routine: Routine) => `function M.${routine.name}(${this.parameters(routine, ({ name }) => this.localName(name))})`;
    const doc = (routine: Routine) => filled(docOf(routine)).map((line) => `-- ${line}`);
    return routines
      .map((routine) => [...doc(routine), head(routine), ...this.statements(routine.body, 1), 'end', ''].join('\n'))
      .join('\n');
  }

  walls(walls: Walls): string {
    this.know(walls.program);
    return snakeCased(`-- Walls for the motion of ${inComment(walls.tuning)}, made by Zygopod for Lua 5.3 and newer.
-- A circle or a level box swept against segments: every result is the model's, bit for bit.
-- luacheck: no max line length
-- luacheck: ignore 581 (the opposite of x < y is not x >= y if one of them is NaN)
local M = {}

${this.#routines(walls.program.routines)}
-- Walls, each a segment: x0, y0, x1, y1, in the same unit as the motion. Pass contact and isClear of the result to a tick.
function M.walls(segments)
  local w = {
    segments = segments,
    courses = {},
    near = {},
${planeLists.map((name) => `    ${name} = {},`).join('\n')}
${walls.fields.map(([field, value]) => `    ${field} = ${field === 'many' ? '#segments / 4' : this.number(value)},`).join('\n')}
  }
  ${this.callOn('w', walls.courses, ['w.many'])}

  -- Moves the body along its walls.
  function w.contact(b) ${this.callOn('w', walls.contact)} end

  -- True if the straight line from one place to another is clear for the body.
  function w.isClear(fromX, fromY, toX, toY)
    return ${this.callOn('w', walls.isClear, ['fromX', 'fromY', 'toX', 'toY'])}
  end

  return w
end

return M
`);
  }

  file(motion: Motion): string {
    this.know(motion.program);
    const plans = callbacksUsed(motion).includes('plan');
    const tick = motion.tick.map((routine) => this.call(this.routineName(routine.name), [], routine));
    const routines = this.#routines(motion.program.routines);
    return snakeCased(`-- The motion of ${inComment(motion.tuning)}, made by Zygopod for Lua 5.3 and newer: every result is the model's, bit for bit.
-- luacheck: no max line length
-- luacheck: ignore 581 (the opposite of x < y is not x >= y if one of them is NaN)
local M = {}

local controls = { ${motion.controls.map((name, i) => `["${name}"] = ${i + 1}`).join(', ')} }
local swipes = { ${motion.swipes.map((name, i) => `${name} = ${i + 1}.0`).join(', ')} }

-- ${handsWords}
function M.hands()
  local h = { held = {}, order = {}, presses = 0.0, pressed = 0, stickX = 0.0, stickY = 0.0, pointX = 0.0, pointY = 0.0, swipe = 0.0, spoke = 0.0, pointed = false, changed = false }
  for i = 1, ${motion.controls.length} do h.held[i], h.order[i] = 0.0, 0.0 end
  return h
end

function M.press(h, control)
  local i = controls[control]
  h.changed = true
  if h.held[i] ~= 0 then return end
  h.presses = h.presses + 1.0
  h.held[i], h.order[i] = h.presses, h.presses
  if i <= ${STEERING} then h.spoke = 1.0 end
  h.pressed = h.pressed | 1 << (i - 1)
end

function M.release(h, control)
  local i = controls[control]
  h.changed, h.held[i] = true, 0.0
  if i <= ${STEERING} then h.spoke = 1.0 end
end

-- The stick, each part from -1 to 1; y grows downwards.
function M.stick(h, x, y)
  h.changed, h.stickX, h.stickY, h.spoke = true, x + 0.0, y + 0.0, 2.0
end

-- The pointer, in the world.
function M.point(h, x, y)
  h.changed, h.pointX, h.pointY, h.pointed = true, x + 0.0, y + 0.0, true
end

function M.swipe(h, to)
  h.changed, h.swipe = true, swipes[to]
end

${this.needed(luaHelpers, routines)}${motion.program.tables.map(({ name, values }) => `local ${name} = { ${values.map((value) => this.number(value)).join(', ')} }\n`).join('')}
${routines}
-- No walls: the whole displacement.
function M.free(b)
  b.contactX, b.contactY = b.velocityToX, b.velocityToY
end

function M.start()
  return {${plans ? '\n    way = { points = {}, reached = false, squeezed = false },' : ''}
${motion.fields.map(([field, value]) => `    ${field} = ${this.number(value)},`).join('\n')}
  }
end

-- Places a started body, facing an angle in degrees: 0 east, 90 south.
function M.place(b, x, y, facing)
  x, y, facing = x + 0.0, y + 0.0, facing + 0.0
  ${this.call(this.routineName(motion.place.name), ['x', 'y', 'facing'], motion.place)}
end
${this.edges(motion)}
-- ${tickWords(motion)}
function M.tick(b, h${this.callbacksOf(motion)})
${tick.map((line) => `  ${line}`).join('\n')}
  h.pressed, h.swipe, h.changed = 0, 0.0, false
end

return M
`);
  }

  protected edgesText(settings: readonly (readonly [string, string])[]): string {
    return `
-- Holds a started body in an area, with the edges that the tuning uses.
function M.edges(b, ${edgeNames.map((edge) => (settings.some(([, value]) => value.startsWith(edge)) ? edge : '_')).join(', ')})
${settings.map(([field, value]) => `  b.${field} = ${value}`).join('\n')}
end
`;
  }
}
