import { defineConfig } from 'vite'
import { aliases } from './vite.aliases'

/** What the server works out in threads, built beside it. */
export default defineConfig({
  resolve: { alias: aliases },
  json: { stringify: true },
  publicDir: false,
  build: {
    ssr: './app/threads/tasks.ts',
    outDir: 'build/server',
    emptyOutDir: false,
    rollupOptions: { output: { entryFileNames: 'threads.js', chunkFileNames: 'assets/threads-[hash].js' } },
  },
})
