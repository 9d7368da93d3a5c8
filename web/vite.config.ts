import { fileURLToPath } from 'node:url'

import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import vuetify from 'vite-plugin-vuetify'

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true })],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  // Assets are never inlined: the content security policy allows the application's own files only.
  build: {
    target: 'es2022',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1200,
    rolldownOptions: {
      output: {
        codeSplitting: {
          // Pages that come late share components with the first ones. What all styles stand on comes before any of them, so
          // that the order of layers and rules is the one that main.ts has.
          groups: [{ name: 'first', test: /src\/styles\/|@fontsource|vuetify\/lib\/styles/ }],
        },
      },
    },
  },
  // For work on the front end beside a running ./hearth demo.
  server: { port: 5180, proxy: { '/api': 'http://127.0.0.1:8765' } },
})
