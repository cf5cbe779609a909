import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['core/**/*.test.ts', 'web/src/**/*.test.{ts,tsx}'],
    // Nothing takes so long; on a machine that is busy with more than this all takes several times longer.
    testTimeout: 240_000,
    pool: 'threads',
    // One test file a core: by itself it leaves one core free.
    maxWorkers: '100%',
  },
});
