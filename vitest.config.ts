import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['core/**/*.test.ts', 'web/src/**/*.test.{ts,tsx}'],
    testTimeout: 60_000,
    pool: 'threads',
  },
});
