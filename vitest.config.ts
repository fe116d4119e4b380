import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  test: {
    include: ['{core,server,web,cli}/src/**/*.test.ts', 'tools/*.test.ts'],
    globalSetup: ['tools/test-cluster.mjs'],
    testTimeout: 60_000,
  },
})
