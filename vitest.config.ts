import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

export default defineConfig({
  resolve: {
    alias: [
      { find: /^~\//, replacement: here('./app/') },
      { find: /^#core\//, replacement: here('./core/') },
      { find: /^#db$/, replacement: here('./db/index.ts') },
    ],
  },
  test: {
    include: ['{core,sim,db,instruments,app,shell,demo,server,command,docs}/**/*.test.{ts,tsx}'],
    testTimeout: 30_000,
    hookTimeout: 60_000,
  },
})
