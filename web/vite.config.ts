import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import { compression } from 'vite-plugin-compression2'
import { keepFiles } from './keep-files.ts'

const { version } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8')) as {
  version: string
}

export default defineConfig({
  define: { __RELEASE__: JSON.stringify(version) },
  // compressed once here, not at every request; the server sends what the browser takes
  plugins: [
    vue(),
    // the page opens and reloads without the server: its files are kept by the browser
    keepFiles(),
    compression({ include: /\.(js|css|svg)$/, algorithms: ['gzip'] }),
  ],
  resolve: { alias: [{ find: /^zod$/, replacement: fileURLToPath(new URL('src/zod.ts', import.meta.url)) }] },
  // the manifest tells the server what a station needs
  build: {
    target: 'es2023',
    manifest: true,
    chunkSizeWarningLimit: 1000,
    // a request costs more than what it brings: one sheet, and one script for what stations share
    cssCodeSplit: false,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [{ name: 'shared', minShareCount: 2 }],
        },
      },
    },
  },
  worker: { format: 'es' },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4310' } },
})
