// A scale on a serial line, live in Keg: KEG_SERVER, KEG_TOKEN (from a pairing) and SCALE say where. docs/instruments.md
import { createReadStream } from 'node:fs'
import { createInterface } from 'node:readline'

const { KEG_SERVER = 'http://127.0.0.1:4600', KEG_TOKEN, SCALE = '/dev/ttyUSB0' } = process.env
const waiting = []
let seq = Date.now() // Rises over restarts, too.

// "ST,GS,+  12.105 kg": stable or not, gross, and what it shows.
createInterface({ input: createReadStream(SCALE) }).on('line', (line) => {
  const [, shown] = /([+-]? *\d+(?:\.\d+)?) *kg/.exec(line) ?? []
  if (shown)
    waiting.push({ channel: 'weight', seq: seq++, at: Date.now(), value: Number(shown.replace(/ /g, '')) })
})

for (;;) {
  await new Promise((resolve) => setTimeout(resolve, 500))
  const samples = waiting.slice(0, 1000)
  if (samples.length === 0) continue
  const headers = { authorization: `Bearer ${KEG_TOKEN}` }
  const body = JSON.stringify({ samples })
  const answer = await fetch(`${KEG_SERVER}/api/v1/samples`, { method: 'POST', headers, body }).catch(
    () => undefined,
  )
  // Taken, or refused item by item: those are done with. Anything else is sent again as it is.
  if ([200, 207, 422].includes(answer?.status)) waiting.splice(0, samples.length)
}
