import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['{core,server,web,cli}/src/**/*.test.ts'],
    globalSetup: ['tools/test-cluster.mjs'],
    testTimeout: 20_000,
  },
})
