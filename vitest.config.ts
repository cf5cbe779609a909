import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['core/**/*.test.ts', 'web/src/**/*.test.{ts,tsx}'],
    testTimeout: 60_000,
    pool: 'threads',
    // One test file a core: by itself it leaves one core free.
    maxWorkers: '100%',
  },
});
