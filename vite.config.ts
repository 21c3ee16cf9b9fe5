import { reactRouter } from '@react-router/dev/vite'
import { defineConfig } from 'vite'
import { aliases } from './vite.aliases'

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [reactRouter()],
  resolve: { alias: aliases },
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
