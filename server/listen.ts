// Serves Keg until SIGTERM or SIGINT, with its database in KEG_DATABASE_URL. Under server/supervise.ts it gets its
// connections from there; alone it listens for itself.
import { existsSync, readFileSync } from 'node:fs'
import { createServer } from 'node:http'
import type { Socket } from 'node:net'
import compression from 'compression'
import express, { type Express } from 'express'
import { host, port } from './address'

interface Keg {
  app: Express
  close: () => Promise<void>
  firstRunCode: () => Promise<string | undefined>
  tidyNowAndThen: () => void
  rebuildWhatIsOutdated: () => void
  keepSamples: () => void
  watchWhatRuns: () => void
  watchLoop: () => void
}

const development = process.env.KEG_DEV === '1'
const supervised = process.env.KEG_SUPERVISED

const front = express()
front.disable('x-powered-by')
front.use(compression())
const keg = development ? await serveSource(front) : await serveBuild(front)
const server = createServer(front)
keg.watchLoop()
keg.tidyNowAndThen()
keg.rebuildWhatIsOutdated()
keg.keepSamples()
keg.watchWhatRuns()
if (supervised && process.send) takeConnections(process.send.bind(process))
else server.listen(port, host, () => void greet())
server.on('error', (error) => {
  console.error(`\n[keg] FAILED: the server cannot listen on ${host}:${port} (${error.message})\n`)
  process.exit(1)
})
let leaving = false
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => void leave())

/** From the process that holds the address: it outlives this one. */
function takeConnections(send: (message: string) => unknown) {
  // What a listening server does by itself: from now on it looks for requests that never come to their end.
  server.emit('listening')
  process.on('message', (message, socket) => {
    if (message === 'ping') send('pong')
    if (!socket) return
    server.emit('connection', socket)
    ;(socket as Socket).resume()
  })
  process.once('disconnect', () => void leave())
  send('ready')
  if (supervised === 'first') void greet()
}

async function serveBuild(front: Express): Promise<Keg> {
  front.use('/assets', express.static('build/client/assets', { immutable: true, maxAge: '1y' }))
  front.use(
    express.static('build/client', {
      maxAge: '1h',
      // The worker is asked for anew each time: it says which program there is.
      setHeaders: (response, path) =>
        path.endsWith('/worker.js') && response.set('cache-control', 'no-cache'),
    }),
  )
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
  const code = await keg.firstRunCode().catch((error: unknown) => {
    console.error(`[keg] The database does not answer (${String(error)}): pages work once it does.`)
    return undefined
  })
  if (code) console.log(`  Nobody has signed up yet. Open /first-run and enter this code: ${code}\n`)
  console.log('  Ctrl-C stops it.\n')
}

/** Open event streams would keep the process alive: they are cut, browsers come back by themselves. */
async function leave() {
  if (leaving) return
  leaving = true
  setTimeout(() => process.exit(1), 8000).unref()
  server.close()
  server.closeAllConnections()
  await keg.close().catch((error: unknown) => console.error(`[keg] The database: ${String(error)}`))
  process.exit(0)
}
