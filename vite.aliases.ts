import { fileURLToPath } from 'node:url'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

/** The short names of the floors, for every build and for the tests; tsconfig.json has the same. */
export const aliases = [
  { find: /^~\//, replacement: here('./app/') },
  { find: /^#core\//, replacement: here('./core/') },
  { find: /^#db$/, replacement: here('./db/index.ts') },
]
