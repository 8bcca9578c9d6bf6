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
      'platform/**/*.test.ts',
      'cli/**/*.test.ts',
      'server/**/*.test.ts',
      'tests/unit/**/*.test.ts',
    ],
    environment: 'node',
    testTimeout: 60_000,
  },
})
