import type { Change } from '../../server/data/changes.ts';

/**
 * Hears of changes on the server until the answer is called; null: the connection was away, and anything may have changed. All pages of a
 * browser share one connection, because a server takes few from each; where they cannot, nothing is heard, and what is saved meets what
 * was changed then.
 */
export function listenToServer(hear: (change: Change | null) => void): () => void {
  if (typeof SharedWorker === 'undefined') return () => undefined;
  const { port } = new SharedWorker(new URL('../../workers/changes.ts', import.meta.url), { type: 'module', name: 'zygopod-changes' });
  port.onmessage = ({ data }: MessageEvent<string>) => hear(data === '' ? null : (JSON.parse(data) as Change));
  const leave = () => port.postMessage('bye');
  window.addEventListener('pagehide', leave);
  return () => {
    window.removeEventListener('pagehide', leave);
    leave();
    port.close();
  };
}
