import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { setTimeout as pause } from 'node:timers/promises'
import { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import {
  addPairingCode,
  announce,
  closeDatabase,
  command,
  devices,
  freshPairingCode,
  inShop,
  letInAgain,
  revokeDevice,
} from '#db'
import { requestFacts } from '~/base/session/request-facts'
import { answered } from '../../../testing/a-request'
import { type AShop, aShop } from '../../../testing/a-shop'
import { loader as commands } from './commands'
import { action as pairings } from './pairings'
import { answerBatch } from '~/samples/batch.server'
import { action as programme } from './programme'
import { action as state } from './state'

const someReports = {
  programmeId: randomUUID(),
  sentAt: Date.now(),
  reports: [{ nr: 1, at: Date.now(), kind: 'began', step: 'recover' }],
}

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

type Work = (args: never) => Promise<unknown>

/** As the server hands it on. */
const samples = async ({ request }: { request: Request }) => {
  const answer = await answerBatch({
    authorization: request.headers.get('authorization'),
    address: randomUUID(),
    reference: 'r',
    text: await request.text(),
  })
  return answer instanceof Response ? answer : Response.json(answer)
}

/** A program asks, from an address of its own. */
async function ask(
  work: Work,
  body?: unknown,
  {
    token,
    method = 'POST',
    deviceId = '',
    query = '',
  }: { token?: string; method?: string; deviceId?: string; query?: string } = {},
) {
  const context = new RouterContextProvider()
  context.set(requestFacts, { nonce: 'n', reference: 'r', build: '', shell: false, address: randomUUID() })
  const request = new Request(`http://keg.test/api/v1/x${query}`, {
    method,
    headers: token ? { authorization: `Bearer ${token}` } : {},
    ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  })
  const { status, body: said } = await answered(work({ request, context, params: { deviceId } } as never))
  return { status, body: said as Record<string, unknown> }
}

const code = async () => {
  const text = freshPairingCode()
  await inShop(shop.shopId, (tx) => addPairingCode(tx, text, shop.userId, new Date()))
  return text
}
async function paired(channels = ['weight', 'low'], more = {}) {
  const { status, body } = await ask(pairings, { code: await code(), name: 'Gateway', channels, ...more })
  expect(status).toBe(201)
  return body as { deviceId: string; token: string }
}
const weight = (seq: number, over = {}) => ({
  channel: 'weight',
  seq,
  at: Date.now() - 1_000,
  value: 12.105,
  ...over,
})

describe('pairing', () => {
  it('trades a code once; what is not clear is said, and leaves the code good', async () => {
    const text = await code()
    const wrong = await ask(pairings, { code: text, name: 'x', channels: ['wieght'] })
    expect(wrong).toMatchObject({ status: 422, body: { title: 'This is no pairing' } })
    expect(wrong.body.detail).toContain('Channels are weight, low')
    expect((await ask(pairings, 'no json')).status).toBe(422)
    expect((await ask(pairings, { code: text, name: 'a\0b', channels: ['weight'] })).status).toBe(422)
    expect((await ask(pairings, { code: text, name: 'x', channels: ['weight'] })).status).toBe(201)
    expect(await ask(pairings, { code: text, name: 'x', channels: ['weight'] })).toMatchObject({
      status: 403,
      body: { title: 'This code does not open anything' },
    })
  })
})

describe('samples', () => {
  it('are taken, and taken once', async () => {
    const { token } = await paired()
    const batch = { samples: [weight(1), weight(2, { at: new Date().toISOString() })] }
    expect(await ask(samples, batch, { token })).toEqual({ status: 200, body: { accepted: 2, known: 0 } })
    expect(await ask(samples, batch, { token })).toEqual({ status: 200, body: { accepted: 0, known: 2 } })
    expect(await ask(samples, { samples: [] }, { token })).toEqual({
      status: 200,
      body: { accepted: 0, known: 0 },
    })
  })
  it('half good: 207, item by item with what to do; none good: 422', async () => {
    const { token, deviceId } = await paired()
    const half = await ask(
      samples,
      { samples: [weight(1), weight(2, { value: 'NaN' }), weight(3, { channel: 'high' })] },
      { token },
    )
    expect(half).toMatchObject({
      status: 207,
      body: {
        accepted: 1,
        errors: [
          { index: 1, code: 'no-number', sentence: expect.stringMatching(/^"value" is a number/) as string },
          { index: 2, code: 'unknown-channel' },
        ],
      },
    })
    expect(await ask(samples, { samples: [{}] }, { token })).toMatchObject({
      status: 422,
      body: { accepted: 0 },
    })
    expect((await inShop(shop.shopId, devices)).find((each) => each.deviceId === deviceId)).toMatchObject({
      refused: 3,
      refusedWhy: 'unknown-channel',
    })
  })
  it('what is no batch is refused whole, and counted with its reason', async () => {
    const { token, deviceId } = await paired()
    for (const body of ['{"samples": [', '[]', 'null', '{"samples": 3}', '{"samples": NaN}'])
      expect((await ask(samples, body, { token })).status).toBe(422)
    const many = await ask(
      samples,
      { samples: Array.from({ length: 1_001 }, (_, i) => weight(i)) },
      { token },
    )
    expect(many.body.detail).toBe('A batch has at most 1000 samples; this one has 1001.')
    expect((await inShop(shop.shopId, devices)).find((each) => each.deviceId === deviceId)).toMatchObject({
      refused: 6,
      refusedWhy: many.body.detail,
    })
  })
  it('no token, a guessed or a revoked one, and another kind of token: 401', async () => {
    const { token, deviceId } = await paired()
    for (const each of [undefined, 'kegdev_guessed', 'keg_other'])
      expect((await ask(samples, { samples: [weight(1)] }, each ? { token: each } : {})).status).toBe(401)
    await inShop(shop.shopId, (tx) => revokeDevice(tx, deviceId, new Date()))
    expect((await ask(samples, { samples: [weight(1)] }, { token })).status).toBe(401)
  })
  it('one that is revoked, or held since a restore, is let in nowhere', async () => {
    const doors: Record<string, (token: string, deviceId: string) => Promise<{ status: number }>> = {
      samples: (token) => ask(samples, { samples: [weight(1)] }, { token }),
      'samples, unreadable': (token) => ask(samples, 'no json', { token }),
      commands: (token, deviceId) =>
        ask(commands, undefined, { token, deviceId, method: 'GET', query: '?wait=0' }),
      state: (token, deviceId) => ask(state, {}, { token, deviceId, method: 'PUT' }),
      programme: (token, deviceId) => ask(programme, someReports, { token, deviceId }),
    }
    // Every device route there is.
    const routes = readFileSync('app/routes.ts', 'utf8').matchAll(
      /'devices\/:deviceId\/(\w+)', 'routes\/api/g,
    )
    expect(Object.keys(doors)).toEqual(expect.arrayContaining([...routes].map(([, name]) => name!)))
    for (const [name, knock] of Object.entries(doors)) {
      const { token, deviceId } = await paired()
      expect((await knock(token, deviceId)).status, name).not.toBe(401)
      await inShop(shop.shopId, (tx) => tx`update device set held_at = now() where device_id = ${deviceId}`)
      expect((await knock(token, deviceId)).status, name).toBe(401)
      expect(await inShop(shop.shopId, (tx) => letInAgain(tx, deviceId))).toBe(true)
      expect((await knock(token, deviceId)).status, name).not.toBe(401)
      await inShop(shop.shopId, (tx) => revokeDevice(tx, deviceId, new Date()))
      expect((await knock(token, deviceId)).status, name).toBe(401)
      expect(await inShop(shop.shopId, (tx) => letInAgain(tx, deviceId))).toBe(false)
    }
  })
  it('a flood of one device is held back, and no other one with it', async () => {
    const [one, other] = [await paired(), await paired()]
    const answers = await Promise.all(
      Array.from({ length: 120 }, () => ask(samples, { samples: [] }, { token: one.token })),
    )
    expect(answers.filter((each) => each.status === 200)).toHaveLength(100)
    expect(answers.find((each) => each.status === 429)!.body.detail).toContain('ten batches a second')
    expect((await ask(samples, { samples: [weight(1)] }, { token: other.token })).status).toBe(200)
  })
})

describe('commands', () => {
  const make = (deviceId: string, what: object) =>
    inShop(shop.shopId, async (tx) => {
      await command(tx, deviceId, what, shop.userId, new Date())
      await announce(tx, { kind: 'device', id: deviceId })
    })
  it('come at once when there are some, when one is made, or not at all when the wait is over', async () => {
    const { token, deviceId } = await paired()
    const poll = (query: string) => ask(commands, undefined, { token, deviceId, method: 'GET', query })
    expect(await poll('?wait=0')).toEqual({ status: 200, body: { commands: [] } })
    const waiting = poll('?wait=20')
    await pause(300)
    await make(deviceId, { set: { fan: true } })
    expect(await waiting).toEqual({
      status: 200,
      body: { commands: [{ nr: 1, command: { set: { fan: true } } }] },
    })
    expect((await poll('?after=0')).body.commands).toHaveLength(1)
    expect(await poll('?after=1&wait=0.1')).toEqual({ status: 200, body: { commands: [] } })
    expect((await poll('?after=x')).status).toBe(422)
  })
  it('are for the own device only', async () => {
    const [one, other] = [await paired(), await paired()]
    expect(
      (
        await ask(commands, undefined, {
          token: one.token,
          deviceId: other.deviceId,
          method: 'GET',
          query: '?wait=0',
        })
      ).status,
    ).toBe(403)
  })
})

describe('the state of a stand-in', () => {
  it('is a small object', async () => {
    const { token, deviceId } = await paired(['weight'], { standIn: true })
    const put = (body: unknown) => ask(state, body, { token, deviceId, method: 'PUT' })
    expect((await put({ speed: 10, controls: { fan: true } })).status).toBe(204)
    for (const bad of [
      'no json',
      '[1]',
      JSON.stringify({ a: 'x'.repeat(5_000) }),
      '{"a":"\\u0000"}',
      '{"a":"\\ud800"}',
    ])
      expect((await put(bad)).status).toBe(422)
  })
})
