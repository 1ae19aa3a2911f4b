/** One connection for all pages of a browser: it hears of changes on the server and tells each page. */

const scope = globalThis as unknown as { onconnect: ((event: MessageEvent) => void) | null };
const ports = new Set<MessagePort>();
const source = new EventSource('/api/v1/changes');

source.addEventListener('change', (event) => {
  for (const port of ports) port.postMessage((event as MessageEvent<string>).data);
});
// What was missed while the connection was away nobody knows: each page looks for itself.
source.addEventListener('open', () => {
  for (const port of ports) port.postMessage('');
});

scope.onconnect = ({ ports: [port] }) => {
  if (!port) return;
  ports.add(port);
  port.onmessage = ({ data }) => {
    if (data === 'bye') ports.delete(port);
  };
};
