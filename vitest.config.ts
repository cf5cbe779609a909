import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // Nothing takes so long; on a machine that is busy with more than this all takes several times longer.
    testTimeout: 240_000,
    pool: 'threads',
    // One test file a core: by itself it leaves one core free.
    maxWorkers: '100%',
    projects: [
      // What computes keeps nothing from one file to the next: its modules are loaded once, which saves a fifth of the time.
      { extends: true, test: { name: 'core', include: ['core/**/*.test.ts'], isolate: false } },
      { extends: true, test: { name: 'web', include: ['web/src/**/*.test.{ts,tsx}'] } },
    ],
  },
});
