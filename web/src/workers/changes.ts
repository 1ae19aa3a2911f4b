/** One connection for all pages of a browser: it receives changes from the server and forwards them to each page. */

const scope = globalThis as unknown as { onconnect: ((event: MessageEvent) => void) | null };
const ports = new Set<MessagePort>();

/** Milliseconds before a refused connection is retried. */
const AGAIN = 5000;

/** Changes missed without a connection are unknown, so pages reload. */
const LOOK = '';

let source = connect();

function connect(): EventSource {
  const opened = new EventSource('/api/v1/changes');
  opened.addEventListener('change', (event) => {
    for (const port of ports) port.postMessage((event as MessageEvent<string>).data);
  });
  const look = () => {
    for (const port of ports) port.postMessage(LOOK);
  };
  opened.addEventListener('open', look);
  opened.addEventListener('look', look);
  // One that breaks comes back by itself; one that was answered with a refusal does not.
  opened.addEventListener('error', () => {
    if (opened.readyState === EventSource.CLOSED)
      setTimeout(() => {
        source = connect();
      }, AGAIN);
  });
  return opened;
}

scope.onconnect = ({ ports: [port] }) => {
  if (!port) return;
  ports.add(port);
  port.onmessage = ({ data }) => {
    if (data === 'bye') ports.delete(port);
  };
  // Between what a page was opened with and now something may have changed, too.
  if (source.readyState === EventSource.OPEN) port.postMessage(LOOK);
};
