// A server as the one that keeps it sees it, with a fault chosen by its first argument.
const fault = process.argv[2]
const work = (ms) => {
  for (const from = process.cpuUsage(); ;) {
    const { user, system } = process.cpuUsage(from)
    if ((user + system) / 1000 >= ms) return
  }
}

process.on('message', (message) => message === 'ping' && process.send('pong'))
process.on('disconnect', () => process.exit())
setInterval(() => {}, 1000)
process.send(`up ${process.pid}`)
if (fault === 'slow-start') work(600)
if (fault === 'never-up') Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0)
process.send('ready')
if (fault === 'stuck') setTimeout(() => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0), 100)
if (fault === 'endless') setTimeout(() => work(1e9), 100)
// A long piece of honest work, again and again.
if (fault === 'busy') setInterval(() => work(500), 50)
