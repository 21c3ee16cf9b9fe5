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
    // By itself it leaves one of two processors idle.
    maxWorkers: 2,
    testTimeout: 30_000,
    hookTimeout: 60_000,
  },
})
