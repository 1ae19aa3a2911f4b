import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'unit', include: ['core/src/**/*.test.ts', 'cli/src/**/*.test.ts', 'web/src/**/*.test.ts'] } },
      { test: { name: 'integration', include: ['web/src/**/*.integration.ts'], testTimeout: 30_000, fileParallelism: false } },
    ],
  },
});
