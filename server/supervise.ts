// Holds the address and keeps a server behind it; whoever asks while there is none is told so. Run by ./keg demo and
// ./keg start.
import { createServer as createHttpServer, type IncomingMessage, type ServerResponse } from 'node:http'
import { createServer, type Socket } from 'node:net'
import { fileURLToPath } from 'node:url'
import { host, port } from './address'
import { keepServer, type KeptServer } from './kept-server'

const startedBy = process.ppid
let server: KeptServer | undefined

const meanwhile = createHttpServer(answerMeanwhile)
const front = createServer({ pauseOnConnect: true, noDelay: true }, (socket) => {
  if (!server?.take(socket)) answerInPlace(socket)
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
  server = keepServer(
    {
      file: fileURLToPath(new URL('./listen.ts', import.meta.url)),
      // A larger nursery for what lives for one request only makes pages a fifth quicker.
      // Young things have one size of room from the start, and old ones are looked through before they have doubled: memory
      // stays where it is under load.
      nodeArgs: [
        '--max-semi-space-size=64',
        '--min-semi-space-size=64',
        '--heap-growing-percent=50',
        '--import',
        'tsx',
      ],
    },
    (what) => console.error(`[keg] ${what}`),
  )
})
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => void leave())
// Whoever started this is gone.
setInterval(() => process.ppid !== startedBy && void leave(), 1_000)

async function leave() {
  front.close()
  meanwhile.closeAllConnections()
  await server?.leave()
  process.exit(0)
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
