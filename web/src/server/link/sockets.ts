import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { LARGEST_MESSAGE } from '@zygopod/core';
import { WebSocketServer } from 'ws';
import { type LinkHub, MOST_LINKS, MOST_PENDING, problem } from './hub.ts';
import type { Transport } from './session.ts';

/** The subprotocol that a game names (RFC 6455, 1.9). */
const SUBPROTOCOL = 'zygopod.link.v1';

/** Bytes a second of a link, and for how many seconds they may come at once. */
const RATE = 1024 * 1024;
const BURST = 2;

/** Milliseconds between heartbeats; a game that answers none of two is gone. */
const BEAT = 5000;

/** Milliseconds after which it is looked again whether a game may go on. */
const AGAIN = 50;

/** Codes of a close (RFC 6455, 7.4.1). */
const NORMAL = 1000;
const TRY_LATER = 1013;

/** WebSockets of games. Upgrades have passed the gate by then. */
export function linkSockets(hub: LinkHub): (request: IncomingMessage, socket: Duplex, head: Buffer) => void {
  const server = new WebSocketServer({
    noServer: true,
    maxPayload: LARGEST_MESSAGE,
    perMessageDeflate: false,
    handleProtocols: (offered) => (offered.has(SUBPROTOCOL) ? SUBPROTOCOL : false),
  });
  server.on('connection', (socket) => {
    const transport: Transport = {
      send: (message) => socket.readyState === socket.OPEN && socket.send(JSON.stringify(message)),
      close: (why) => socket.close(NORMAL, why),
    };
    const link = hub.open(transport);
    if (!link) {
      transport.send(problem(503, `${MOST_LINKS} games are linked already`));
      socket.close(TRY_LATER, 'too many links');
      return;
    }
    let allowance = RATE * BURST;
    let counted = performance.now();
    let isWarned = false;
    /** Lets the game send again once it may: what it sends meanwhile waits in the network. */
    const goOn = () => {
      const now = performance.now();
      allowance = Math.min(RATE * BURST, allowance + ((now - counted) / 1000) * RATE);
      counted = now;
      if (allowance > 0 && (link.session?.pending.length ?? 0) < MOST_PENDING) socket.resume();
      else setTimeout(goOn, AGAIN).unref();
    };
    let beats = 0;
    let sent = 0;
    const ping = () => {
      if (beats++ >= 2) return socket.terminate();
      sent = performance.now();
      socket.ping();
    };
    const beat = setInterval(ping, BEAT);
    socket.on('pong', () => {
      beats = 0;
      link.session?.roundTrip(performance.now() - sent);
    });
    socket.on('message', (data, isBinary) => {
      const bytes = data as Buffer;
      allowance -= bytes.length;
      if (allowance <= 0 && !isWarned) {
        isWarned = true;
        transport.send(problem(429, `More than ${RATE} bytes a second: the link is slowed down`));
      }
      // One message at a time: a game that is faster than the database waits.
      socket.pause();
      const taken = isBinary ? Promise.resolve(transport.send(problem(400, 'Messages are text'))) : link.take(bytes.toString());
      void taken.then(goOn);
    });
    socket.on('close', () => {
      clearInterval(beat);
      hub.close(link);
    });
    // A broken frame, or one that is too large, closes the socket with its own code.
    socket.on('error', () => undefined);
    ping();
  });
  return (request, socket, head) => server.handleUpgrade(request, socket, head, (opened) => server.emit('connection', opened, request));
}
