import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: {
    alias: {
      '#core': fileURLToPath(new URL('./core', import.meta.url)),
      '#platform': fileURLToPath(new URL('./platform', import.meta.url)),
    },
  },
  test: {
    include: [
      'app/**/*.test.ts',
      'core/**/*.test.ts',
      'node/**/*.test.ts',
      'platform/**/*.test.ts',
      'cli/**/*.test.ts',
      'server/**/*.test.ts',
      'tests/unit/**/*.test.ts',
    ],
    environment: 'node',
    // The longest renders and listens to whole songs: half a minute, more on a machine that is busy.
    testTimeout: 180_000,
    // Left to itself, it keeps one core free and runs one file after the other on two.
    maxWorkers: 2,
    // Half of the time went into loading the same modules for every file.
    isolate: false,
  },
})
