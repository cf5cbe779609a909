import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['web/e2e/**/*.test.ts'],
    testTimeout: 180_000,
    hookTimeout: 120_000,
    // Pages wait more than they work: one file a core.
    maxWorkers: 2,
  },
});
