import { snakeCased } from '../../casing/casing.ts';
import { CHANGED, type CheckFile, HANDS, handed, POINTED, quotedSnake, single } from '../../golden/columns.ts';

/** The test that replays goldens in it. */
export const check: CheckFile = {
  name: 'check.lua',
  run: 'lua5.4 check.lua goldens/*.csv',
  text: (asks) =>
    snakeCased(`-- Replays goldens against the game's own movement, and reports the first difference, and its size.
-- Your own movement in place of the model's: start() gives a body with x, y, vx, vy ...; tick(body, hands, free) moves it.
local motion = dofile("motion.lua")

local SLACK = 1e-6
local fields = { ${quotedSnake} }

local function check(name)
  local body, hands, tick = motion.start(), motion.hands(), -1
  for line in io.lines(name) do
    if tick >= 0 then
      local v = {}
      for one in line:gmatch("[^,]+") do v[#v + 1] = tonumber(one) + 0.0 end
      if v[1] ~= 0 then body = motion.start() end
      for i = 1, 11 do hands.held[i], hands.order[i] = v[1 + i], v[12 + i] end
      ${single.map(([field, at]) => `hands.${field} = v[${at + 1}]`).join('; ')}
      hands.pointed, hands.changed = v[${POINTED + 1}] ~= 0, v[${CHANGED + 1}] ~= 0
      motion.tick(body, hands${handed(asks, {
        contact: 'motion.free',
        isClear: 'function() return true end',
        plan: 'function(fromX, fromY, toX, toY, way)\n        way.points, way.reached, way.squeezed = { fromX, fromY, toX, toY }, true, false\n        return true\n      end',
      })})
      for i, field in ipairs(fields) do
        local got, want = body[field], v[${HANDS} + i]
        local off = math.abs(got - want)
        if not (off <= SLACK * math.max(1.0, math.abs(want))) then
          return string.format("first at tick %d: %s is %.9g, in the golden %.9g, off by %.3g", tick, field, got, want, off)
        end
      end
    end
    tick = tick + 1
  end
end

local failed = #arg == 0
for _, name in ipairs(arg) do
  local parted = check(name)
  print(name .. ": " .. (parted or "good"))
  failed = failed or parted ~= nil
end
os.exit(failed and 1 or 0)
`),
};
