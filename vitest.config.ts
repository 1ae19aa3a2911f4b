import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'core/src/**/*.test.ts',
            'code/src/**/*.test.ts',
            'cli/src/**/*.test.ts',
            'web/src/**/*.test.ts',
            'testing/**/*.test.ts',
          ],
          testTimeout: 60_000,
          // By itself the runner leaves a core free, which on two is half of them.
          maxWorkers: 2,
        },
      },
      {
        test: {
          name: 'integration',
          include: ['web/src/**/*.integration.ts', 'cli/src/**/*.integration.ts'],
          testTimeout: 60_000,
          fileParallelism: false,
          globalSetup: './testing/server.ts',
        },
      },
      {
        test: {
          name: 'browser',
          include: ['e2e/**/*.spec.ts'],
          testTimeout: 60_000,
          fileParallelism: false,
          globalSetup: './testing/server.ts',
        },
      },
    ],
  },
});
