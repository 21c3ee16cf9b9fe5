// Holds the address and keeps a server behind it: when that ends, another is started, and whoever asks meanwhile is
// told so. Run by ./keg demo and ./keg start.
import { type ChildProcess, fork } from 'node:child_process'
import { createServer as createHttpServer, type IncomingMessage, type ServerResponse } from 'node:http'
import { createServer, type Socket } from 'node:net'
import { fileURLToPath } from 'node:url'
import { host, port } from './address'

const RESTART_MS = { first: 200, most: 10_000 }
/** A server that does not answer for so long does nothing else either. */
const SILENT_MS = 30_000
const LEAVE_MS = 10_000

const startedBy = process.ppid
let server: ChildProcess | undefined
let ready = false
let leaving = false
let everReady = false
let restartMs = RESTART_MS.first
let heardAt = Date.now()

const meanwhile = createHttpServer(answerMeanwhile)
const front = createServer({ pauseOnConnect: true }, (socket) => {
  if (ready && server?.connected) server.send('connection', socket, (error) => error && socket.destroy())
  else answerInPlace(socket)
})

if (process.env.KEG_ORIGIN && !/^https?:\/\/[^/]+\/?$/.test(process.env.KEG_ORIGIN)) {
  console.error(`\n[keg] FAILED: KEG_ORIGIN is no address that a browser opens: ${process.env.KEG_ORIGIN}`)
  console.error('[keg] What to do: set it to protocol and name, for example https://keg.example\n')
  process.exit(1)
}
front.once('error', refuse)
front.listen(port, host, () => {
  front.off('error', refuse)
  front.on('error', (error) => console.error(`[keg] The address: ${error.message}`))
  start()
})
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => leave(0))
setInterval(lookAround, 1_000)

function start() {
  heardAt = Date.now()
  const child = fork(fileURLToPath(new URL('./listen.ts', import.meta.url)), {
    // A larger nursery for what lives for one request only makes pages a fifth quicker.
    // Young things have one size of room from the start, and old ones are looked through before they have doubled: memory
    // stays where it is under load.
    execArgv: [
      '--max-semi-space-size=64',
      '--min-semi-space-size=64',
      '--heap-growing-percent=50',
      '--import',
      'tsx',
    ],
    env: { ...process.env, KEG_SUPERVISED: everReady ? 'again' : 'first' },
  })
  server = child
  child.on('message', (message) => {
    heardAt = Date.now()
    if (message !== 'ready') return
    if (everReady) console.log('[keg] The server is back.')
    ready = everReady = true
    // One that came up and ended is started again at once; one that never comes up is given more and more time.
    restartMs = RESTART_MS.first
  })
  child.on('error', (error) => console.error(`[keg] The server: ${error.message}`))
  child.once('exit', (code, signal) => {
    ready = false
    server = undefined
    if (leaving) return
    console.error(
      `[keg] The server has ended (${signal ?? `code ${code}`}): starting it again in ${restartMs / 1000} s.`,
    )
    setTimeout(() => {
      if (!leaving) start()
    }, restartMs)
    restartMs = Math.min(RESTART_MS.most, restartMs * 2)
  })
}

/** Whoever started this is gone, or the server is silent. */
function lookAround() {
  if (process.ppid !== startedBy) return leave(0)
  if (!server?.connected) return
  server.send('ping', (error) => {
    // It is ending: its exit says the rest.
    if (error) heardAt = Date.now()
  })
  if (Date.now() - heardAt < SILENT_MS) return
  console.error(`[keg] The server has not answered for ${SILENT_MS / 1000} s: ending it.`)
  server.kill('SIGKILL')
}

function leave(code: number) {
  if (leaving) return
  leaving = true
  front.close()
  meanwhile.closeAllConnections()
  if (!server) process.exit(code)
  server.once('exit', () => process.exit(code))
  server.kill('SIGTERM')
  setTimeout(() => server?.kill('SIGKILL'), LEAVE_MS).unref()
}

function answerInPlace(socket: Socket) {
  meanwhile.emit('connection', socket)
  socket.resume()
}

/** A page comes back by itself; what was sent is not sent again without being asked. */
function answerMeanwhile({ method, headers }: IncomingMessage, response: ServerResponse) {
  const page = method === 'GET' && headers.accept?.includes('text/html')
  response.writeHead(503, {
    'content-type': `text/${page ? 'html' : 'plain'}; charset=utf-8`,
    'retry-after': '2',
    'cache-control': 'no-store',
    connection: 'close',
  })
  response.end(page ? MEANWHILE : 'Keg is starting again, and nothing was lost. Try again in a moment.\n')
}

const MEANWHILE = `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta http-equiv="refresh" content="2">
<meta name="viewport" content="width=device-width"><meta name="color-scheme" content="light dark"><title>Keg</title></head>
<body><p>Keg is starting again, and nothing was lost. This page comes back by itself.</p></body></html>`

function refuse(error: NodeJS.ErrnoException) {
  console.error(
    `\n[keg] FAILED: the server cannot listen on ${host}:${port} (${error.code ?? error.message})`,
  )
  console.error(`[keg] What to do: choose another port, for example KEG_PORT=${port + 1} ./keg demo\n`)
  process.exit(1)
}
