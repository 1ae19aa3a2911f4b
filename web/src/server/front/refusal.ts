import type { Duplex } from 'node:stream';

/** Ends a connection on which no response can be made with a problem (RFC 9457). `reason` is the phrase of the status line. */
export function refuseOn(socket: Duplex, status: number, reason: string, title = reason): void {
  const body = JSON.stringify({ type: 'about:blank', title, status });
  socket.end(
    `HTTP/1.1 ${status} ${reason}\r\nconnection: close\r\ncontent-type: application/problem+json\r\ncontent-length: ${Buffer.byteLength(body)}\r\n\r\n${body}`,
  );
}
