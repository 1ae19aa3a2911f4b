import { once } from 'node:events';
import { expect, inject, it } from 'vitest';
import '../../../testing/provided.ts';
import { freePort, startServer, stopServer } from './server.ts';

const tuning = { format: 'zygopod/tuning', version: 2, name: 'Boots that last' };
const headers = { 'content-type': 'application/json' };

it('finds drafts and revisions again after kill -9 of the server', async () => {
  const options = { host: '127.0.0.1', port: await freePort(), databaseUrl: inject('databaseUrl') };
  const first = await startServer(options);
  const api = `${first.address}/api/v1/tunings`;
  const result = (await (await fetch(api, { method: 'POST', headers, body: JSON.stringify({ file: tuning }) })).json()) as { id: string };
  const saved = { ...tuning, pace: { walkSpeed: 150 } };
  await fetch(`${api}/${result.id}/revisions`, {
    method: 'POST',
    headers: { ...headers, 'if-match': '"1"' },
    body: JSON.stringify({ file: saved }),
  });
  const drafted = { ...tuning, pace: { walkSpeed: 175 } };
  await fetch(`${api}/${result.id}/draft`, {
    method: 'PUT',
    headers: { ...headers, 'if-none-match': '*' },
    body: JSON.stringify({ file: drafted }),
  });

  const gone = once(first.process, 'exit');
  first.process.kill('SIGKILL');
  await gone;
  const second = await startServer(options);
  try {
    expect(await (await fetch(`${api}/${result.id}`)).json()).toMatchObject({ head: 2, file: saved });
    expect(await (await fetch(`${api}/${result.id}/draft`)).json()).toMatchObject({ version: 1, base: 2, file: drafted });
  } finally {
    await stopServer(second.process);
  }
});

it('refuses a used port and suggests another', async () => {
  const port = await freePort();
  const options = { host: '127.0.0.1', port, databaseUrl: inject('databaseUrl') };
  const server = await startServer(options);
  await expect(startServer(options)).rejects.toThrow(`./zygopod up --port ${port + 1}`);
  await stopServer(server.process);
});
