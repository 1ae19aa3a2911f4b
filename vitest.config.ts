import { defineConfig } from 'vitest/config';
import { LongestFirst } from './testing/longestFirst.ts';

/** Milliseconds after which a test hangs. What it waits for has bounds of its own; a busy machine may take ten times as long as a quiet one. */
const HANG = 300_000;

/** Integration tests that expect something within a time run one file after the other, with nothing beside them. */
const timed = [
  'web/src/server/data/bigShelf.integration.ts',
  'web/src/server/front/connections.integration.ts',
  'web/src/server/judge/largeBodies.integration.ts',
  'web/src/server/link/typescriptClient.integration.ts',
  'web/src/server/link/clients.integration.ts',
  'cli/src/up/up.integration.ts',
  'cli/src/sweep/queued.integration.ts',
];

export default defineConfig({
  test: {
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        test: {
          name: 'unit',
          isolate: false,
          include: [
            'core/src/**/*.test.ts',
            'code/src/**/*.test.ts',
            'cli/src/**/*.test.ts',
            'web/src/**/*.test.{ts,tsx}',
            'testing/**/*.test.ts',
            'game/src/**/*.test.ts',
          ],
          testTimeout: HANG,
          hookTimeout: HANG,
          // By itself the runner leaves a core free, which on two is half of them.
          maxWorkers: 2,
        },
      },
      {
        test: {
          name: 'integration',
          include: ['web/src/**/*.integration.ts', 'cli/src/**/*.integration.ts'],
          exclude: ['**/node_modules/**', ...timed],
          testTimeout: HANG,
          hookTimeout: HANG,
          maxWorkers: 2,
          globalSetup: './testing/server.ts',
        },
      },
      {
        test: {
          name: 'alone',
          include: timed,
          testTimeout: HANG,
          hookTimeout: HANG,
          fileParallelism: false,
          globalSetup: './testing/server.ts',
        },
      },
      {
        test: {
          name: 'browser',
          isolate: false,
          include: ['e2e/**/*.spec.ts'],
          setupFiles: ['./e2e/onFailure.ts'],
          testTimeout: HANG,
          hookTimeout: HANG,
          // Files share a server; each makes what it works on.
          maxWorkers: 2,
          globalSetup: './testing/server.ts',
        },
      },
    ],
  },
});
