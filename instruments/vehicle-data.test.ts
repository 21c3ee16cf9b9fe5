// The stand-in for vehicle data, as a process: by its contract, and gone with whoever started it.
import { type ChildProcess, spawn } from 'node:child_process'
import { createServer } from 'node:net'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

let child: ChildProcess
let at = ''
beforeAll(async () => {
  const free = createServer().listen(0, '127.0.0.1')
  await new Promise((done) => free.once('listening', done))
  const { port } = free.address() as AddressInfo
  await new Promise((done) => free.close(done))
  at = `http://127.0.0.1:${port}/v1/vehicles`
  child = spawn(process.execPath, ['--import', 'tsx', 'instruments/vehicle-data.ts', String(port)], {
    stdio: 'ignore',
  })
  // It says nothing when it is ready: asked until it answers, for twenty seconds at most.
  for (const until = Date.now() + 20_000; Date.now() < until; await new Promise((go) => setTimeout(go, 100)))
    if (await fetch(at).catch(() => undefined)) return
}, 30_000)
afterAll(() => child.kill('SIGTERM'))

const ask = async (search: string) => {
  const response = await fetch(`${at}${search}`)
  return { status: response.status, body: (await response.json()) as Record<string, unknown> }
}

describe('the stand-in for vehicle data', () => {
  it('knows a vehicle by its number, and by its registration, however they are spaced', async () => {
    const { status, body } = await ask('?vin=keg00001700000007')
    expect([status, body.refrigerant, body.chargeG]).toEqual([200, 'R-134a', 850])
    expect((await ask('?registration=hrb17')).body).toEqual(body)
  })
  it('says that it does not know, and how to ask', async () => {
    expect((await ask('?vin=11111111111111111')).status).toBe(404)
    expect((await ask('')).status).toBe(400)
    expect((await fetch(at, { method: 'POST' })).status).toBe(404)
  })
})
