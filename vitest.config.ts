import { availableParallelism } from 'node:os'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  test: {
    include: ['{core,server,web,cli}/src/**/*.test.ts', 'tools/*.test.ts'],
    globalSetup: ['tools/test-cluster.mjs'],
    testTimeout: 60_000,
    // left to itself it keeps one core free, which of two is half
    maxWorkers: availableParallelism(),
  },
})
