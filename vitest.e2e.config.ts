import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['web/e2e/**/*.test.ts'],
    testTimeout: 180_000,
    hookTimeout: 120_000,
    globalSetup: 'web/e2e/seeded.ts',
    // One file by itself leaves a third of two cores idle, for pages wait; each has a server, a database and a browser of its own.
    maxWorkers: 2,
  },
});
