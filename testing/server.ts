import type { TestProject } from 'vitest/node';
import './provided.ts';
import { freePort, startServer, stopServer } from '../cli/src/up/server.ts';

/** Starts the built application with fresh demo data for all browser tests. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const databaseUrl = process.env['DATABASE_URL'];
  if (!databaseUrl) throw new Error('DATABASE_URL is not set: run ./zygopod test');
  const server = await startServer({
    host: '127.0.0.1',
    port: await freePort(),
    databaseUrl,
    env: { ZYGOPOD_RESET_DEMO: '1', LOG_LEVEL: process.env['LOG_LEVEL'] ?? 'error' },
  });
  project.provide('address', server.address);
  project.provide('databaseUrl', databaseUrl);
  return () => stopServer(server.process);
}
