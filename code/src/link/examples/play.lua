-- A game of a few lines: a scripted player, driven by `go N` on stdin up to tick N.
local motion = require("motion")
local motionLink = require("motion_link")
local socket = require("socket")

local script = { [10] = { "press", "right" }, [30] = { "press", "sprint" }, [55] = { "press", "down" }, [80] = { "release", "right" },
  [95] = { "release", "sprint" }, [110] = { "release", "down" } }
local game = motionLink.new({ game = arg[3], hz = 60, host = arg[1], port = tonumber(arg[2]), start = { 100, 100, 0 } })
for line in io.lines() do
  local to = tonumber(line:match("^go (%d+)")) or 0
  while game.tick < to do
    local what = script[game.tick % 120]
    if what and game.tick < 600 then game[what[1]](game, what[2]) end
    game:before()
    motion.tick(game.body, game.hands, motion.free)
    game:after()
  end
  for _ = 1, 10 do
    game.link:update()
    socket.sleep(0.001)
  end
  print("at " .. game.tick)
  io.flush()
end
game.link:close(10)
