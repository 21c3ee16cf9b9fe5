import { randomUUID } from 'node:crypto'
import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, afterEach, beforeEach, expect, it } from 'vitest'
import {
  announce,
  changePassword,
  closeDatabase,
  closeSession,
  findSession,
  hashOf,
  inShop,
  onChange,
  openSession,
} from '#db'
import { aShop } from '../../../testing/a-shop'
import { changeStream } from './change-stream.server'

afterAll(closeDatabase)

// What would end the server.
const unseen: unknown[] = []
const note = (reason: unknown) => void unseen.push(reason)
beforeEach(() => {
  process.on('unhandledRejection', note)
  process.on('uncaughtException', note)
})
afterEach(() => {
  process.off('unhandledRejection', note)
  process.off('uncaughtException', note)
  expect(unseen.splice(0)).toEqual([])
})

const opened = (
  shopId: string,
  stillMay: () => Promise<boolean>,
  heartbeatMs = 20,
  userId: string = randomUUID(),
) => {
  const reader = new AbortController()
  return changeStream({ shopId, userId, stillMay, heartbeatMs, signal: reader.signal }).then((stream) => ({
    reader,
    stream,
  }))
}

it('streams that close while their heartbeat waits for the database end nothing else', async () => {
  const { shopId } = await aShop()
  const slow: (() => void)[] = []
  const waits = () => new Promise<boolean>((resolve) => slow.push(() => resolve(true)))
  const all = await Promise.all(Array.from({ length: 200 }, () => opened(shopId, waits)))
  await expect.poll(() => slow.length).toBe(200)
  for (const [i, { reader, stream }] of all.entries()) {
    if (i % 2) reader.abort()
    else await stream.cancel()
  }
  for (const answer of slow) answer()
  await pause(60)
  expect(slow).toHaveLength(200)
})

it('a database that does not answer at the heartbeat leaves the stream open; a session that has ended does not', async () => {
  const { shopId } = await aShop()
  let answer = () => Promise.reject<boolean>(new Error('CONNECTION_CLOSED'))
  const { stream } = await opened(shopId, () => answer())
  const text = stream
    .pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>)
    .getReader()
  expect((await text.read()).value).toBe('retry: 3000\n\n')
  expect((await text.read()).value).toBe(': beat\n\n')
  answer = () => Promise.resolve(false)
  for (;;) if ((await text.read()).done) break
})

it('a session that ends, a password that is changed, a person who is disabled: their stream ends at once, and nobody else’s', async () => {
  const shop = await aShop()
  const streamOf = async (token: string, userId: string) => {
    const still = async () => (await findSession(token)) !== undefined
    const { stream, reader } = await opened(shop.shopId, still, 3_600_000, userId)
    const read = stream.getReader()
    await read.read()
    const ended = read.read().then(({ done }) => done)
    return { ended, reader, next: () => ended }
  }
  const tokens = await Promise.all(Array.from({ length: 4 }, () => openSession(shop.shopId, shop.userId)))
  const streams = await Promise.all(tokens.map((token) => streamOf(token, shop.userId)))
  const other = await streamOf(tokens[3]!, randomUUID())
  await closeSession(tokens[0]!)
  expect(await streams[0]!.ended).toBe(true)
  await inShop(shop.shopId, (tx) => changePassword(tx, shop.userId, 'another', hashOf(tokens[1]!)))
  expect(await Promise.all([streams[2]!.ended, streams[3]!.ended])).toEqual([true, true])
  const still = await Promise.race([streams[1]!.ended, other.ended, pause(100).then(() => 'open')])
  expect(still).toBe('open')
  for (const { reader } of [streams[1]!, other]) reader.abort()
})

it('changes arrive, and a reader that takes none is let go', async () => {
  const { shopId } = await aShop()
  const { stream } = await opened(shopId, async () => true, 60_000)
  const id = randomUUID()
  const tell = () => inShop(shopId, (tx) => announce(tx, { kind: 'job', id }))
  await tell()
  const reader = stream.getReader()
  const next = async () => new TextDecoder().decode((await reader.read()).value)
  expect(await next()).toBe('retry: 3000\n\n')
  expect(await next()).toBe(`data: ${JSON.stringify({ kind: 'job', id })}\n\n`)
  let told = 0
  const stop = await onChange(shopId, () => told++)
  await inShop(shopId, async (tx) => {
    for (let i = 0; i < 1_100; i++) await announce(tx, { kind: 'job', id: randomUUID() })
  })
  await expect.poll(() => told).toBe(1_100)
  stop()
  let read = 0
  while (!(await reader.read()).done) read++
  expect(read).toBeLessThanOrEqual(1_000)
})
