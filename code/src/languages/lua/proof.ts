import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { snakeCased } from '../../casing/casing.ts';
import { handed } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';
import { type Driver, fields, LINE, ran, WAY } from '../../testing/driver.ts';
import { faultsBy, linesBy, type Proof } from '../../testing/languageProof.ts';

const driver: Driver = {
  text: ({ begin, asks, segments }) =>
    snakeCased(`local motion = dofile("motion.lua")
${segments ? `local walls = dofile("walls.lua")\nlocal segments = { ${segments.map((one) => `${one} + 0.0`).join(', ')} }\nlocal held = walls.walls(segments)` : ''}
local b, h, paths = motion.start(), motion.hands(), {}
local function plan(fromX, fromY, toX, toY, way)
  local i = 1
  while i <= #paths do
    local count = paths[i + 7]
    if paths[i] == fromX and paths[i + 1] == fromY and paths[i + 2] == toX and paths[i + 3] == toY then
      if paths[i + 4] == 0 then return false end
      way.reached, way.squeezed = paths[i + 5] ~= 0, paths[i + 6] ~= 0
      way.points = table.move(paths, i + ${WAY}, i + ${WAY} + 2 * count - 1, 1, {})
      return true
    end
    i = math.floor(i + ${WAY} + 2 * count)
  end
  error("nobody planned that")
end
for line in io.lines() do
  local v = {}
  for one in line:gmatch("%S+") do v[#v + 1] = tonumber(one) + 0.0 end
  paths = table.move(v, ${LINE + 2}, #v, 1, {})
  if table.remove(v, 1) ~= 0 then
    b = motion.start(); ${begin((field, at) => `b.${field} = v[${at}];`)}
    ${segments ? 'held = walls.walls(segments)' : ''}
  end
  for i = 1, 11 do h.held[i], h.order[i] = v[i], v[11 + i] end
  ${fields.map((field, i) => `h.${field} = v[${23 + i}]`).join('; ')}
  h.pointed, h.changed = v[30] ~= 0, v[31] ~= 0
  motion.tick(b, h${handed(asks, {
    contact: segments ? 'held.contact' : 'motion.free',
    isClear: segments
      ? 'held.isClear'
      : 'function(_, _, bx, by) return bx < 0 or by < 0 or bx >= 512 or by >= 384 or (bx // 32 * 7 + by // 32 * 13) % 5 ~= 0 end',
    plan: 'plan',
  })})
  io.write(string.format("${compared.map(() => '%.17g').join(' ')}\\n", ${compared.map((field) => `b.${field} + 0.0`).join(', ')}))
end
`),
};

/** Prints a word for the compiled code of each file. */
const DUMP = `
for _, path in ipairs(arg) do
  local bytes = string.dump(assert(loadfile(path)), true)
  local sum = 0
  for i = 1, #bytes do sum = (sum * 31 + bytes:byte(i)) % 2147483647 end
  print(#bytes .. " " .. sum)
end
`;

/** How tests run it. */
export const proof: Proof = {
  command: 'lua5.4',
  version: '-v',
  driver,
  run: (stem, folder, input) => ran('lua5.4', [`${stem}.lua`], folder, input),
  faults: (texts, folder) => faultsBy('lua5.4', ['-e', 'assert(loadfile(arg[1]))', '-'], texts, folder),
  withoutComments: (texts, folder) => {
    writeFileSync(join(folder, 'dump.lua'), DUMP);
    return linesBy('lua5.4', [join(folder, 'dump.lua')], texts, folder);
  },
  linter: { program: 'luacheck', options: ['--no-color'] },
  names: { refused: ['vitesse_été', 'end', 'nil'], taken: ['ete_'] },
};
