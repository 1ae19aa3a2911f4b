-- Links motion.lua to Zygopod: its live numbers, the state after each tick, and hands from there. Beside zygopod_link.lua; MIT license.
local motion = require("motion")
local zygopod = require("zygopod_link")

local COLUMNS = { "tick", "x", "y", "vx", "vy", "facing", "gait", "stamina" }
local LIVE = {} -- path, field, least, most

-- Call before() before each motion.tick and after() after it; report the hands here, not to the hands themselves.
local M = {}
M.__index = M

-- options: those of zygopod_link, and start: { x, y, facing }.
local function new(options)
  options.columns = COLUMNS
  local self = setmetatable({ body = motion.start(), hands = motion.hands(), tick = 0, start = options.start or { 0, 0, 90 } }, M)
  self.events, self.tape, self.began, self.at = {}, {}, 0, 1
  self.link = zygopod.new(options)
  for _, one in ipairs(LIVE) do
    local path, field, least, most = one[1], one[2], one[3], one[4]
    self.link:watch(path, function() return self.body[field] end, function(value)
      if type(value) ~= "number" or value < least or value > most then return "not a value of this number" end
      self.body[field] = value + 0.0
    end, { path = path, min = least, max = most })
  end
  self.link:on("restart", function()
    local fresh = motion.start()
    for _, one in ipairs(LIVE) do fresh[one[2]] = self.body[one[2]] end
    for name, value in pairs(fresh) do self.body[name] = value end
    motion.place(self.body, self.start[1], self.start[2], self.start[3])
  end)
  self.link:on("place", function(message)
    self.body.x, self.body.y, self.body.vx, self.body.vy = message.x + 0.0, message.y + 0.0, 0.0, 0.0
  end)
  self.link:on("tape", function(message) self.tape, self.began, self.at = message.hands, self.tick, 1 end)
  motion.place(self.body, self.start[1], self.start[2], self.start[3])
  return self
end

function M:note(event) self.events[#self.events + 1] = event end
function M:press(control) self:note({ press = control }) motion.press(self.hands, control) end
function M:release(control) self:note({ release = control }) motion.release(self.hands, control) end
function M:stick(x, y) self:note({ stick = { x, y } }) motion.stick(self.hands, x, y) end
function M:point(x, y) self:note({ point = { x, y } }) motion.point(self.hands, x, y) end
function M:swipe(to) self:note({ swipe = to }) motion.swipe(self.hands, to) end

-- Applies the replayed hands of the tick that comes.
function M:before()
  while self.tape[self.at] and self.tape[self.at].at <= self.tick - self.began do
    local event = self.tape[self.at]
    self.at = self.at + 1
    for _, kind in ipairs({ "press", "release", "swipe" }) do if event[kind] then self[kind](self, event[kind]) end end
    for _, kind in ipairs({ "stick", "point" }) do if event[kind] then self[kind](self, event[kind][1], event[kind][2]) end end
  end
end

-- Reports the state after a tick.
function M:after()
  local b = self.body
  self.link:row({ self.tick, b.x + 0.0, b.y + 0.0, b.vx + 0.0, b.vy + 0.0, b.facing_angle * 57.29577951308232 + 0.0, b.gait_index, b.gait_stamina + 0.0 }, self.events)
  self.events = {}
  self.tick = self.tick + 1
end

return { new = new }
