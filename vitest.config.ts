import { defineConfig } from 'vitest/config'
import { aliases } from './vite.aliases'

export default defineConfig({
  resolve: { alias: aliases },
  test: {
    include: ['{core,sim,db,instruments,app,shell,demo,server,command,docs,testing}/**/*.test.{ts,tsx}'],
    testTimeout: 30_000,
    hookTimeout: 60_000,
  },
})
