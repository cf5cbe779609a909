import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['web/e2e/**/*.test.ts'],
    testTimeout: 180_000,
    hookTimeout: 120_000,
    globalSetup: 'web/e2e/seeded.ts',
    // Drawing by the processor takes more than a core.
    fileParallelism: false,
  },
});
