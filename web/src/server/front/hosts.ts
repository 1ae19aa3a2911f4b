/** Names by which this machine calls itself. */
const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]']);

/**
 * True if this server answers to a `Host` header: a loopback name, the host that it listens on by option, or an address in figures. Any other name
 * may have been bound to this machine by somebody else's page (DNS rebinding), and would count as its origin.
 */
export function isKnownHost(header: string | null, own: string | undefined): boolean {
  if (header === null) return false;
  const match = /^(\[[0-9a-f:.]+\]|[^:[\]]+)(?::\d{1,5})?$/i.exec(header);
  // Ports above 65535, numbers above 255 and broken IPv6 addresses make no URL.
  if (!match || !URL.canParse(`http://${header}`)) return false;
  const name = (match[1] as string).toLowerCase();
  return LOOPBACK.has(name) || name === own?.toLowerCase() || name.startsWith('[') || /^\d{1,3}(\.\d{1,3}){3}$/.test(name);
}
