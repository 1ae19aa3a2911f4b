-- Drives a link as a test asks: `go N` on stdin drives up to tick N.
local socket = require("socket")
local zygopod = require("zygopod_link")

local walk, restarts, tick, took = 140, 0, 0, {}
local link = zygopod.new({ game = arg[3], hz = 60, columns = { "tick", "x", "y" }, host = arg[1], port = tonumber(arg[2]) })
link:watch("walk_speed", function() return walk end, function(value)
  if type(value) ~= "number" or value < 0 or value > 1000 then return "not a value of this number" end
  walk = value
end, { path = "pace.walkSpeed", min = 0, max = 1000 })
link:on("restart", function() restarts = restarts + 1 end)
link:on("place", function(message) return message.x < 0 and 'outside "here"' or nil end)
for line in io.lines() do
  local to = tonumber(line:match("^go (%d+)"))
  if to then
    while tick < to do
      local begun = socket.gettime()
      link:row({ tick, tick * 0.5, -tick }, tick % 50 == 0 and { { press = "up" } } or {})
      took[#took + 1] = (socket.gettime() - begun) * 1000
      if tick % 200 == 0 then socket.sleep(0.001) end
      tick = tick + 1
    end
    print("at " .. tick)
  else
    for _ = 1, 20 do
      link:update()
      socket.sleep(0.001)
    end
    print("walk " .. string.format("%g", walk) .. " restarts " .. restarts)
  end
  io.flush()
end
link:close(10)
table.sort(took)
print("took", took[math.ceil(#took / 2)], took[math.ceil(#took * 0.99)], took[#took])
