"""Links motion.py to Zygopod: its live numbers, the state after each tick, and hands from there. Beside zygopod_link.py; MIT license."""
import motion
from zygopod_link import ZygopodLink

COLUMNS = ("tick", "x", "y", "vx", "vy", "facing", "gait", "stamina")
LIVE = ()  # path, field, least, most


class MotionLink:
    """Call begin() before each motion_tick and end() after it; report the hands here, not to the Hands themselves."""

    def __init__(self, game, hz, start=(0, 0, 90), **options):
        self.body, self.hands, self.tick, self._start = motion.Body(), motion.Hands(), 0, start
        self._events, self._tape, self._began = [], [], 0
        self.link = ZygopodLink(game, hz, COLUMNS, **options)
        for path, field, least, most in LIVE:
            self.link.watch(path, self._getter(field), self._setter(field, least, most), path=path, least=least, most=most)
        self.link.on("restart", lambda message: self._restart()).on("place", self._place).on("tape", self._replay)
        motion.motion_place(self.body, *start)

    def _getter(self, field):
        return lambda: getattr(self.body, field)

    def _setter(self, field, least, most):
        def put(value):
            if isinstance(value, bool) or not isinstance(value, (int, float)) or not least <= value <= most:
                return "not a value of this number"
            setattr(self.body, field, float(value))
            return None
        return put

    def _restart(self):
        fresh = motion.Body()
        for _, field, _, _ in LIVE:
            setattr(fresh, field, getattr(self.body, field))
        self.body.__dict__.update(fresh.__dict__)
        motion.motion_place(self.body, *self._start)

    def _place(self, message):
        self.body.x, self.body.y, self.body.vx, self.body.vy = float(message["x"]), float(message["y"]), 0.0, 0.0

    def _replay(self, message):
        self._tape, self._began = list(message["hands"]), self.tick

    def press(self, control):
        self._events.append({"press": control})
        self.hands.press(control)

    def release(self, control):
        self._events.append({"release": control})
        self.hands.release(control)

    def stick(self, x, y):
        self._events.append({"stick": [x, y]})
        self.hands.stick(x, y)

    def point(self, x, y):
        self._events.append({"point": [x, y]})
        self.hands.point(x, y)

    def swipe(self, to):
        self._events.append({"swipe": to})
        self.hands.swipe_to(to)

    def begin(self):
        """Applies the replayed hands of the tick that comes."""
        while self._tape and self._tape[0]["at"] <= self.tick - self._began:
            event = self._tape.pop(0)
            for kind in ("press", "release", "swipe"):
                if kind in event:
                    getattr(self, kind)(event[kind])
            for kind in ("stick", "point"):
                if kind in event:
                    getattr(self, kind)(*event[kind])

    def end(self):
        """Reports the state after a tick."""
        b = self.body
        row = (self.tick, b.x + 0.0, b.y + 0.0, b.vx + 0.0, b.vy + 0.0, b.facing_angle * 57.29577951308232 + 0.0, b.gait_index, b.gait_stamina + 0.0)
        self.link.row(row, self._events)
        self._events = []
        self.tick += 1
