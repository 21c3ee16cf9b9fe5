import { fileURLToPath } from 'node:url'
import { reactRouter } from '@react-router/dev/vite'
import { defineConfig } from 'vite'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [reactRouter()],
  resolve: {
    alias: [
      { find: /^~\//, replacement: here('./app/') },
      { find: /^#core\//, replacement: here('./core/') },
      { find: /^#db$/, replacement: here('./db/index.ts') },
    ],
  },
  // The tables are text until they are asked for: a slow phone reads JSON faster than a program.
  json: { stringify: true },
  css: {
    preprocessorOptions: { scss: { quietDeps: true, silenceDeprecations: ['import'] } },
  },
  build: {
    ...(isSsrBuild ? { rollupOptions: { input: './server/app.ts' } } : {}),
    chunkSizeWarningLimit: 700,
  },
}))
