import { availableParallelism } from 'node:os'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    testTimeout: 60_000,
    // hooks make and remove databases
    hookTimeout: 120_000,
    // one more than cores, for some wait for a database or a process; left to itself it keeps a core free
    maxWorkers: availableParallelism() + 1,
    // files share what they import: a quarter of the time
    isolate: false,
    provide: { isLong: process.env.LONG_TESTS === '1' },
    projects: [
      {
        extends: true,
        test: {
          name: 'engine',
          include: ['{core,server,cli}/src/**/*.test.ts', 'tools/*.test.ts'],
          globalSetup: ['tools/test-cluster.mjs'],
        },
      },
      {
        extends: true,
        plugins: [vue()],
        test: { name: 'page', include: ['web/src/**/*.test.ts'], setupFiles: ['web/src/tests/setup.ts'] },
      },
    ],
  },
})
