import type { Socket } from 'node:net';
import type { Duplex } from 'node:stream';

/** Ends a connection on which no response can be made with a problem (RFC 9457). `reason` is the phrase of the status line. */
export function refuseOn(socket: Duplex, status: number, reason: string, title = reason): void {
  const body = JSON.stringify({ type: 'about:blank', title, status });
  socket.end(
    `HTTP/1.1 ${status} ${reason}\r\nconnection: close\r\ncontent-type: application/problem+json\r\ncontent-length: ${Buffer.byteLength(body)}\r\n\r\n${body}`,
  );
}

/**
 * Ends a connection whose request can't be read, with the reason. A connection that has sent nothing is closed without one: browsers open some in
 * advance, and would take an early response for that of the request they send on it later (RFC 9112, 9.5).
 */
export function refuseClient({ code }: NodeJS.ErrnoException, socket: Socket): void {
  if (code === 'ECONNRESET' || !socket.writable || socket.bytesRead === 0) socket.destroy();
  else if (code === 'HPE_HEADER_OVERFLOW') refuseOn(socket, 431, 'Request Header Fields Too Large', 'The headers are too large');
  else if (code === 'ERR_HTTP_REQUEST_TIMEOUT') refuseOn(socket, 408, 'Request Timeout', 'The request didn’t arrive in time');
  else refuseOn(socket, 400, 'Bad Request', 'The request is no HTTP');
}
