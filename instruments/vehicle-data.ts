// A stand-in for an outside service that knows vehicles: made up, small, and by the contract of docs/vehicle-data.md, so that
// a real one can take its place. node --import tsx instruments/vehicle-data.ts PORT
import { readFileSync } from 'node:fs'
import { createServer } from 'node:http'

interface Known {
  vin: string
  registration: string
}

const vehicles = JSON.parse(readFileSync(new URL('./vehicle-data.json', import.meta.url), 'utf8')) as Known[]
const plain = (text: string) => text.replace(/[\s-]/g, '').toUpperCase()

const server = createServer((request, response) => {
  const answer = (status: number, body: object) => {
    response.writeHead(status, { 'content-type': 'application/json; charset=utf-8' })
    response.end(JSON.stringify(body))
  }
  const url = new URL(request.url ?? '/', 'http://127.0.0.1')
  if (request.method !== 'GET' || url.pathname !== '/v1/vehicles')
    return answer(404, { title: 'There is only GET /v1/vehicles?vin= or ?registration=.' })
  const vin = plain(url.searchParams.get('vin') ?? '')
  const registration = plain(url.searchParams.get('registration') ?? '')
  if (vin === '' && registration === '') return answer(400, { title: 'Ask by vin or by registration.' })
  const found = vehicles.find((each) =>
    vin !== '' ? plain(each.vin) === vin : plain(each.registration) === registration,
  )
  return found ? answer(200, found) : answer(404, { title: 'This vehicle is not known here.' })
})
server.listen(Number(process.argv[2]), '127.0.0.1')
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => server.close())
// Whoever started it is gone: it goes, too, however that ended.
const startedBy = process.ppid
setInterval(() => {
  if (process.ppid !== startedBy) process.exit(0)
}, 1_000).unref()
