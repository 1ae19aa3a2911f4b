"""Drives a link as a test asks: `go N` on stdin drives up to tick N."""
import sys
import time

from zygopod_link import ZygopodLink

state = {"walk": 140, "restarts": 0}


def put(value):
    if not (isinstance(value, (int, float)) and 0 <= value <= 1000):
        return "not a value of this number"
    state["walk"] = value


def restart(_message):
    state["restarts"] += 1


link = ZygopodLink(sys.argv[3], 60, ["tick", "x", "y"], host=sys.argv[1], port=int(sys.argv[2]))
link.watch("walk_speed", lambda: state["walk"], put, path="pace.walkSpeed", least=0, most=1000)
link.on("restart", restart)
link.on("place", lambda message: 'outside "here"' if message["x"] < 0 else None)
link.open()
tick, took = 0, []
for line in sys.stdin:
    if line.startswith("go"):
        while tick < int(line.split()[1]):
            begun = time.perf_counter()
            link.row((tick, tick * 0.5, -tick), [{"press": "up"}] if tick % 50 == 0 else [])
            took.append((time.perf_counter() - begun) * 1000)
            if tick % 200 == 0:
                time.sleep(0.001)
            tick += 1
        print("at", tick, flush=True)
    else:
        link.poll()
        print("walk", state["walk"], "restarts", state["restarts"], flush=True)
link.close()
took.sort()
print("took", took[len(took) // 2], took[len(took) * 99 // 100], took[-1])
