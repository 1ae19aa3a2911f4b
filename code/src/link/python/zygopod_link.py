"""Links a game to Zygopod: its rows and hands go there, and numbers that are dragged there come back. One file, standard library only; MIT license.

Nothing in the game's thread waits: a thread of its own connects, sends and listens. Requests are carried out in row(), between two ticks. The link is
for this machine: ws://, no TLS.
"""
import base64
import collections
import json
import os
import select
import socket
import struct
import threading
import time

KEPT = 36000  # rows that are kept to be sent again: ten minutes at a rate of 60
MOST = 20  # rows of a message: a frame may wait for the interpreter while they are written


class ZygopodLink:
    """A link of a game. Columns begin with "tick"; unit is px, m or tiles."""

    def __init__(self, game, hz, columns, build="", unit="px", y_up=False, host="127.0.0.1", port=4380, token=None):
        self._hello = {"type": "hello", "protocol": 1, "game": game, "build": build, "hz": hz, "unit": unit, "yUp": y_up, "columns": list(columns)}
        self._at, self._token = (host, port), token
        self._numbers, self._handlers = {}, {}
        self._rows, self._hands = collections.deque(), collections.deque()  # rows, and (tick, event), in order
        self._sent_rows, self._sent_hands = 0, 0  # how many of these have been sent on this connection
        self._lock = threading.Lock()
        self._inbox, self._outbox = collections.deque(), collections.deque()
        self._socket, self._buffer = None, bytearray()
        self.is_linked, self._over, self._session = False, False, None
        self._thread = threading.Thread(target=self._run, daemon=True)

    def watch(self, name, get, put, path=None, least=None, most=None):
        """Registers a number: get() returns it, put(value) sets it, and returns why not, or None."""
        self._numbers[name] = (get, put, {k: v for k, v in (("path", path), ("min", least), ("max", most)) if v is not None})
        return self

    def on(self, ability, handler):
        """Registers what the game can do: restart, place, pause (also run and step), tape. The handler gets the message, and returns why not, or None."""
        self._handlers[ability] = handler
        return self

    def open(self):
        self._thread.start()
        return self

    def close(self):
        """Sends what is left, and says goodbye."""
        self._over = True
        self._thread.join()

    def row(self, values, hands=()):
        """Records the row of a tick, with the changes of the hands in it: {"press": "right"}. Call once a tick, with rising ticks."""
        with self._lock:
            self._rows.append(tuple(values))
            for event in hands:
                self._hands.append((values[0], event))
            if len(self._rows) > KEPT:
                self._rows.popleft()
                self._sent_rows = max(0, self._sent_rows - 1)
                while self._hands and self._hands[0][0] < self._rows[0][0]:
                    self._hands.popleft()
                    self._sent_hands = max(0, self._sent_hands - 1)
        if self._inbox:
            self.poll()

    def poll(self):
        """Carries out what was requested since the last call; row() does it, a game that is paused calls it itself."""
        tick = self._rows[-1][0] + 1 if self._rows else 0
        while self._inbox:
            message = self._inbox.popleft()
            name, why = self._set(message) if message["type"] == "set" else (None, self._do(message))
            answer = {"type": "refused" if why else "done", "id": message["id"]}
            answer.update({"why": why} if why else {"tick": tick})
            if why and name:
                answer["name"] = name
            self._outbox.append(json.dumps(answer))

    def _set(self, message):
        for name, value in message["values"].items():
            why = self._numbers[name][1](value) if name in self._numbers else "no such number"
            if why:
                return name, why
        return None, None

    def _do(self, message):
        ability = "pause" if message["type"] in ("run", "step") else message["type"]
        return self._handlers[ability](message) if ability in self._handlers else "the game can’t do that"

    # The thread.

    def _run(self):
        pause = 0.5
        while not self._over:
            try:
                self._connect()
                self._say_hello()
                more = True
                while not self._over or more:
                    self._listen(0 if more else 0.002)
                    if self.is_linked:
                        pause = 0.4
                        while self._outbox:
                            self._send(1, self._outbox.popleft().encode())
                    more = self._send_rows()
                self._send(1, b'{"type":"bye"}')
            except (OSError, ValueError, KeyError):
                pass
            self.is_linked = False
            if self._socket:
                self._socket.close()
            pause = min(5, pause * 1.5)
            until = time.monotonic() + pause
            while not self._over and time.monotonic() < until:
                time.sleep(0.02)

    def _connect(self):
        self._buffer = bytearray()
        self._socket = None
        self._socket = socket.create_connection(self._at, timeout=2)
        self._socket.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        head = ["GET /api/v1/link HTTP/1.1", "Host: %s:%s" % self._at, "Upgrade: websocket", "Connection: Upgrade"]
        head += ["Sec-WebSocket-Key: " + base64.b64encode(os.urandom(16)).decode(), "Sec-WebSocket-Version: 13", "Sec-WebSocket-Protocol: zygopod.link.v1"]
        if self._token:
            head.append("Authorization: Bearer " + self._token)
        self._socket.sendall(("\r\n".join(head) + "\r\n\r\n").encode())
        while b"\r\n\r\n" not in self._buffer:
            self._fill()
        answer, _, rest = bytes(self._buffer).partition(b"\r\n\r\n")
        if not answer.startswith(b"HTTP/1.1 101"):
            raise OSError("no link here")
        self._buffer = bytearray(rest)

    def _fill(self):
        got = self._socket.recv(65536)
        if not got:
            raise OSError("the link is closed")
        self._buffer += got

    def _say_hello(self):
        hello = dict(self._hello, can=(["set"] if self._numbers else []) + list(self._handlers))
        hello["parameters"] = [dict(more, name=name, value=get()) for name, (get, _, more) in self._numbers.items()]
        if self._session:
            hello["session"] = self._session
        self._send(1, json.dumps(hello).encode())

    def _send(self, opcode, data):
        """A frame of RFC 6455, masked."""
        mask, size = os.urandom(4), len(data)
        head = struct.pack("!BB", 0x80 | opcode, 0x80 | size) if size < 126 else struct.pack("!BBH", 0x80 | opcode, 0xFE, size)
        key = int.from_bytes(mask * (size // 4 + 1), "big") >> (8 * (4 - size % 4) if size % 4 else 32)
        masked = (int.from_bytes(data, "big") ^ key).to_bytes(size, "big") if size else b""
        self._socket.sendall(head + mask + masked)

    def _listen(self, patience):
        """Takes the frames that have come."""
        if select.select([self._socket], [], [], patience)[0]:
            self._fill()
        while True:
            frame = self._frame()
            if frame is None:
                return
            opcode, data = frame
            if opcode == 1:
                self._hear(json.loads(data))
            elif opcode == 9:
                self._send(10, data)
            elif opcode == 8:
                raise OSError("the link is closed")

    def _frame(self):
        buffer = self._buffer
        if len(buffer) < 2:
            return None
        size, begin = buffer[1] & 127, 2
        if size > 125:
            begin = 4 if size == 126 else 10
            if len(buffer) < begin:
                return None
            size = int.from_bytes(buffer[2:begin], "big")
        if len(buffer) < begin + size:
            return None
        data, opcode = bytes(buffer[begin:begin + size]), buffer[0] & 15
        del buffer[:begin + size]
        return opcode, data

    def _hear(self, message):
        if message["type"] == "welcome":
            with self._lock:
                self._session = message["session"]
                self._sent_rows = sum(1 for row in self._rows if row[0] < message["from"])
                self._sent_hands = sum(1 for tick, _ in self._hands if tick < message["from"])
            self.is_linked = True
        elif message["type"] != "problem":
            self._inbox.append(message)

    def _send_rows(self):
        """Sends some of the rows that are due; returns True if there are more."""
        if not self.is_linked:
            return False
        with self._lock:  # Only copies: the game's frame may wait for it.
            first = self._sent_rows
            rows = [self._rows[i] for i in range(first, min(len(self._rows), first + MOST))]
            hands = []
            while rows and self._sent_hands < len(self._hands) and self._hands[self._sent_hands][0] <= rows[-1][0]:
                tick, event = self._hands[self._sent_hands]
                hands.append(dict(event, at=tick))
                self._sent_hands += 1
            self._sent_rows += len(rows)
            more = self._sent_rows < len(self._rows)
        if rows:
            self._send(1, json.dumps({"type": "rows", "rows": rows, "hands": hands}).encode())
        return more
