import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { defineConfig, type Plugin } from 'vite'
import { HASH_LENGTH } from './shell/kept'

const hash = (content: Buffer) =>
  createHash('sha256').update(content).digest('base64url').slice(0, HASH_LENGTH)

/** Tells the worker its version and the list of its files, once the program is built. */
const program = (): Plugin => ({
  name: 'keg-program',
  config() {
    const assets = readdirSync('build/client/assets')
    const version = assets.flatMap((name) => /^manifest-(\w+)\.js$/.exec(name)?.[1] ?? [])
    if (version.length !== 1)
      throw new Error('build/client/assets has no manifest, or several: build the program first')
    const files = Object.fromEntries(
      [
        ...assets.map((name) => `/assets/${name}`),
        ...readdirSync('public/icons').map((name) => `/icons/${name}`),
        '/keg.svg',
        '/manifest.webmanifest',
      ].map((path) => [path, hash(readFileSync(`build/client${path}`))]),
    )
    return { define: { KEG_BUILD: JSON.stringify(version[0]), KEG_FILES: JSON.stringify(files) } }
  },
})

/** The service worker, built after the program. */
export default defineConfig({
  plugins: [program()],
  publicDir: false,
  build: {
    outDir: 'build/client',
    emptyOutDir: false,
    lib: { entry: 'shell/worker.ts', formats: ['es'], fileName: () => 'worker.js' },
  },
})
