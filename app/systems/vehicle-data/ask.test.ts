// The service that knows vehicles, as it may answer: well, slowly, with nonsense, or not at all.
import { createServer, type RequestListener, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterEach, describe, expect, it } from 'vitest'
import { askVehicle } from './ask.server'

const running: Server[] = []
afterEach(async () => {
  for (const server of running.splice(0)) {
    server.closeAllConnections()
    await new Promise((done) => server.close(done))
  }
})
async function service(answer: RequestListener): Promise<string> {
  const server = createServer(answer)
  running.push(server)
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`
}
const says = (body: unknown, status = 200) =>
  service((_, response) => {
    response.writeHead(status, { 'content-type': 'application/json' })
    response.end(typeof body === 'string' ? body : JSON.stringify(body))
  })
const bus = {
  make: 'Tidewater',
  model: 'Bus',
  refrigerant: 'R-1234yf',
  chargeG: 1_150,
  drive: 'high-voltage',
}

describe('askVehicle', () => {
  it('by number first, else by registration', async () => {
    const asked: string[] = []
    const at = await service((request, response) => {
      asked.push(request.url!)
      response.end(JSON.stringify(bus))
    })
    expect(await askVehicle({ vin: 'KEG00001700000007', registration: 'HRB 17' }, at)).toEqual({
      kind: 'found',
      vehicle: bus,
    })
    await askVehicle({ registration: 'HRB 17' }, at)
    expect(asked).toEqual(['/v1/vehicles?vin=KEG00001700000007', '/v1/vehicles?registration=HRB+17'])
  })
  it('what is more than the contract is left out', async () => {
    expect(await askVehicle({ vin: 'x' }, await says({ ...bus, script: '<b>' }))).toEqual({
      kind: 'found',
      vehicle: bus,
    })
  })
  it.each<[string, unknown, number]>([
    ['no JSON', '<html>', 200],
    ['a list', [], 200],
    ['a gas that there is not', { ...bus, refrigerant: 'R-999' }, 200],
    ['a charge in words', { ...bus, chargeG: '850 g' }, 200],
    ['a charge below nothing', { ...bus, chargeG: -5 }, 200],
    ['far too long', JSON.stringify({ ...bus, note: 'x'.repeat(100_000) }), 200],
  ])('%s is nonsense', async (_, body, status) => {
    expect(await askVehicle({ vin: 'x' }, await says(body, status))).toEqual({ kind: 'nonsense' })
  })
  it('not known, not there, out of order, sent elsewhere', async () => {
    expect(await askVehicle({ vin: 'x' }, await says({}, 404))).toEqual({ kind: 'unknown' })
    expect(await askVehicle({ vin: 'x' }, await says({}, 500))).toEqual({ kind: 'unreachable' })
    expect(await askVehicle({ vin: 'x' }, 'http://127.0.0.1:1')).toEqual({ kind: 'unreachable' })
    const elsewhere = await service((_, response) => {
      response.writeHead(302, { location: 'http://127.0.0.1:1/' })
      response.end()
    })
    expect(await askVehicle({ vin: 'x' }, elsewhere)).toEqual({ kind: 'unreachable' })
  })
  it('silent for more than three seconds', async () => {
    expect(await askVehicle({ vin: 'x' }, await service(() => {}))).toEqual({ kind: 'unreachable' })
  })
  it('nobody is asked where no service is set up, or nothing is known to ask by', async () => {
    expect(await askVehicle({ vin: 'x' }, '')).toEqual({ kind: 'none' })
    expect(await askVehicle({}, 'http://127.0.0.1:1')).toEqual({ kind: 'unknown' })
  })
})
