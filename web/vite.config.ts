import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

import { shell } from './shell'

export default defineConfig({
  plugins: [react(), shell()],
  define: { BUILT: JSON.stringify(new Date().toISOString()) },
  // no inlined assets: the content security policy allows only files of our own
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rollupOptions: {
      input: { index: 'index.html', sw: 'src/sw.ts' },
      // the worker has one name for ever: it is asked for again by that name
      output: { entryFileNames: ({ name }) => (name === 'sw' ? 'sw.js' : 'assets/[name]-[hash].js') },
    },
  },
  test: { pool: 'threads', isolate: false, testTimeout: 15_000, setupFiles: ['src/settled.ts'] },
  // Bootstrap's own sources still import the old way
  css: {
    preprocessorOptions: {
      scss: { silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'] },
    },
  },
  server: { host: '127.0.0.1', proxy: { '/api': { target: 'http://127.0.0.1:8717', changeOrigin: false } } },
})
