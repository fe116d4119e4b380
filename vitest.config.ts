import { availableParallelism } from 'node:os'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    testTimeout: 60_000,
    // hooks make and remove databases
    hookTimeout: 120_000,
    // files share what they import: a quarter of the time
    isolate: false,
    provide: { isLong: process.env.LONG_TESTS === '1' },
    projects: [
      {
        extends: true,
        test: {
          name: 'engine',
          // some wait for a database or a process
          maxWorkers: availableParallelism(),
          include: ['{core,server,cli}/src/**/*.test.ts', 'tools/*.test.ts'],
          globalSetup: ['tools/test-cluster.mjs'],
        },
      },
      {
        extends: true,
        plugins: [vue()],
        test: {
          name: 'page',
          include: ['web/src/**/*.test.ts'],
          environment: 'happy-dom',
          setupFiles: ['web/src/tests/setup.ts'],
          // each would import the whole page
          maxWorkers: 1,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
})
