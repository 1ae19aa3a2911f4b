import { type IncomingMessage, STATUS_CODES } from 'node:http';
import type { Duplex } from 'node:stream';
import { openDatabase } from '../data/connection.ts';
import { LinkHub } from '../link/hub.ts';
import { shareLinks } from '../link/reach.ts';
import { linkSockets } from '../link/sockets.ts';
import { LinkStore } from '../link/store.ts';
import { type House, passage } from './gate.ts';
import { refuseOn } from './refusal.ts';

/** The address of the link. */
const PATH = '/api/v1/link';

/** Refuses an upgrade. */
const refuse = (socket: Duplex, status: number, title: string): void => refuseOn(socket, status, STATUS_CODES[status] ?? 'Refused', title);

/** True for a page that was loaded from this machine: a game in a browser has a server, and so an origin, of its own. */
function isOnThisMachine(origin: string): boolean {
  const name = URL.canParse(origin) ? new URL(origin).hostname : '';
  return name === 'localhost' || name === '[::1]' || /^127(\.\d{1,3}){3}$/.test(name);
}

/**
 * Makes the links of this server. An upgrade to a WebSocket passes the same gate as a write: a page of another machine is refused, a program that
 * sends no origin is not.
 */
export function openLinks(house: House): (request: IncomingMessage, socket: Duplex, head: Buffer) => void {
  const url = process.env['DATABASE_URL'] ?? '';
  let database: ReturnType<typeof openDatabase> | undefined;
  const store = new LinkStore(() => {
    database ??= openDatabase(url);
    return database;
  });
  const hub = new LinkHub(store);
  shareLinks({ hub, store });
  const accept = linkSockets(hub);
  return (request, socket, head) => {
    socket.on('error', () => undefined);
    const { url: path = '', headers } = request;
    const passed = passage({ method: 'GET', url: path, headers }, house);
    if (passed.kind === 'refused') return refuse(socket, passed.status, passed.title);
    // A token in the address is as good as one in a header, which a page can’t set; an upgrade is not sent elsewhere.
    if (path.split('?')[0] !== PATH) return refuse(socket, 404, 'No link is at this address');
    const { origin, host } = headers;
    if (origin !== undefined && origin !== `http://${host}` && !isOnThisMachine(origin))
      return refuse(socket, 403, 'A link from another origin is refused');
    return accept(request, socket, head);
  };
}
