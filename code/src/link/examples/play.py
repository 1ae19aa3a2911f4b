"""A game of a few lines: a scripted player, driven by `go N` on stdin up to tick N."""
import sys

import motion
from motion_link import MotionLink

SCRIPT = {10: ("press", "right"), 30: ("press", "sprint"), 55: ("press", "down"), 80: ("release", "right"), 95: ("release", "sprint"), 110: ("release", "down")}

game = MotionLink(sys.argv[3], 60, start=(100, 100, 0), host=sys.argv[1], port=int(sys.argv[2]))
game.link.open()
for line in sys.stdin:
    if line.startswith("go"):
        while game.tick < int(line.split()[1]):
            what = SCRIPT.get(game.tick % 120)
            if what and game.tick < 600:
                getattr(game, what[0])(what[1])
            game.begin()
            motion.motion_tick(game.body, game.hands)
            game.end()
    game.link.poll()
    print("at", game.tick, flush=True)
game.link.close()
