import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vite'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

/** What the server works out in threads, built beside it. */
export default defineConfig({
  resolve: {
    alias: [
      { find: /^~\//, replacement: here('./app/') },
      { find: /^#core\//, replacement: here('./core/') },
      { find: /^#db$/, replacement: here('./db/index.ts') },
    ],
  },
  json: { stringify: true },
  publicDir: false,
  build: {
    ssr: './app/threads/tasks.ts',
    outDir: 'build/server',
    emptyOutDir: false,
    rollupOptions: { output: { entryFileNames: 'threads.js', chunkFileNames: 'assets/threads-[hash].js' } },
  },
})
