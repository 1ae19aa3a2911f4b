import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'postgresql',
  schema: ['./src/server/data/schema.ts', './src/server/data/sweepTables.ts'],
  out: './drizzle',
});
