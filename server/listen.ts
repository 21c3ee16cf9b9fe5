// Serves Keg until SIGTERM or SIGINT. Started by ./keg, with its database in KEG_DATABASE_URL.
import { randomInt } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import type { Server } from 'node:http'
import compression from 'compression'
import express, { type Express } from 'express'

interface Keg {
  app: Express
  close: () => Promise<void>
  firstRunOpen: () => Promise<boolean>
}

const port = Number(process.env.KEG_PORT ?? 4600)
const host = process.env.KEG_HOST ?? '127.0.0.1'
const development = process.env.KEG_DEV === '1'
// Guards the first-run page; shared with the app through the environment of this process only.
process.env.KEG_FIRST_RUN_CODE = String(randomInt(10_000_000, 99_999_999))

const front = express()
front.disable('x-powered-by')
front.use(compression())
const keg = development ? await serveSource(front) : await serveBuild(front)
const server = front.listen(port, host, (error?: Error) => {
  if (error) refuse(error as NodeJS.ErrnoException)
  else void greet()
})
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => void leave(server))

async function serveBuild(front: Express): Promise<Keg> {
  front.use('/assets', express.static('build/client/assets', { immutable: true, maxAge: '1y' }))
  front.use(express.static('build/client', { maxAge: '1h' }))
  const keg = (await import(new URL('../build/server/index.js', import.meta.url).href)) as Keg
  front.use(keg.app)
  return keg
}

async function serveSource(front: Express): Promise<Keg> {
  const { createServer } = await import('vite')
  const vite = await createServer({ server: { middlewareMode: true } })
  const load = () => vite.ssrLoadModule('./server/app.ts') as unknown as Promise<Keg>
  front.use(vite.middlewares)
  front.use(async (request, response, next) => {
    try {
      ;(await load()).app(request, response, next)
    } catch (error) {
      vite.ssrFixStacktrace(error as Error)
      next(error)
    }
  })
  return load()
}

async function greet() {
  const greeting = process.env.KEG_GREETING
  console.log(`\n  Keg is ready: ${process.env.KEG_ORIGIN ?? `http://${host}:${port}`}\n`)
  if (greeting && existsSync(greeting)) console.log(readFileSync(greeting, 'utf8'))
  const firstRun = await keg.firstRunOpen().catch((error: unknown) => {
    console.error(`[keg] The database does not answer (${String(error)}): pages work once it does.`)
    return false
  })
  if (firstRun)
    console.log(
      `  Nobody has signed up yet. Open /first-run and enter this code: ${process.env.KEG_FIRST_RUN_CODE}\n`,
    )
  console.log('  Ctrl-C stops it.\n')
}

function refuse(error: NodeJS.ErrnoException) {
  console.error(
    `\n[keg] FAILED: the server cannot listen on ${host}:${port} (${error.code ?? error.message})`,
  )
  console.error(`[keg] What to do: choose another port, for example KEG_PORT=${port + 1} ./keg demo\n`)
  process.exit(1)
}

/** Open event streams would keep the process alive: they are cut, browsers come back by themselves. */
async function leave(server: Server) {
  setTimeout(() => process.exit(1), 8000).unref()
  server.close()
  server.closeAllConnections()
  await keg.close()
  process.exit(0)
}
