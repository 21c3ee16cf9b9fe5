import { randomUUID } from 'node:crypto'
import { afterAll, describe, expect, it } from 'vitest'
import { aJob, anEntry, aShop, note } from '../testing/a-shop'
import { BusyError } from './busy'
import { closeDatabase, inShop, onJob } from './connection'
import { line, lines } from './line'

/** Something that ends when it is told to. */
function held() {
  let end = () => {}
  const done = new Promise<void>((resolve) => (end = resolve))
  return { work: () => done, end }
}

describe('a line', () => {
  it('takes so many at once, the others in the order in which they came', async () => {
    const turns = line({ atOnce: 2, most: 10, ms: 10_000 })
    const [a, b] = [held(), held()]
    const order: string[] = []
    const all = [
      turns(a.work),
      turns(b.work),
      turns(async () => void order.push('third')),
      turns(async () => void order.push('fourth')),
    ]
    expect(order).toEqual([])
    b.end()
    await Promise.all([all[2], all[3]])
    expect(order).toEqual(['third', 'fourth'])
    a.end()
    await Promise.all(all)
    expect(turns.idle()).toBe(true)
  })
  it('of one keeps nobody waiting in the line of another', async () => {
    const turns = lines({ atOnce: 1, most: 1, ms: 10_000 })
    const first = held()
    const one = turns('a', first.work)
    const two = turns('a', async () => 'after it')
    await expect(turns('a', async () => 'too many')).rejects.toThrow(BusyError)
    expect(await turns('b', async () => 'at once')).toBe('at once')
    first.end()
    await one
    expect(await two).toBe('after it')
    expect(await turns('a', async () => 'anew')).toBe('anew')
  })
  it('sends away who stands too far back, or has waited too long, and begins nothing of theirs', async () => {
    const turns = line({ atOnce: 1, most: 1, ms: 30 })
    const first = held()
    const begun: string[] = []
    const one = turns(first.work)
    const two = turns(async () => void begun.push('two'))
    await expect(turns(async () => void begun.push('three'))).rejects.toThrow(BusyError)
    await expect(two).rejects.toThrow(BusyError)
    first.end()
    await one
    expect(begun).toEqual([])
    expect(turns.idle()).toBe(true)
  })
  it('goes on after a fault', async () => {
    const turns = line({ atOnce: 1, most: 1, ms: 1_000 })
    await expect(turns(() => Promise.reject(new Error('no')))).rejects.toThrow('no')
    expect(await turns(async () => 'yes')).toBe('yes')
  })
})

describe('the database', () => {
  afterAll(closeDatabase)
  it('is told apart from a fault where it cannot be reached, in words and with a status', async () => {
    const usual = process.env.KEG_DATABASE_URL
    await closeDatabase()
    process.env.KEG_DATABASE_URL = 'postgres://nobody:x@127.0.0.1:1/none'
    const error: unknown = await inShop(randomUUID(), async () => 1).catch((thrown: unknown) => thrown)
    await closeDatabase()
    process.env.KEG_DATABASE_URL = usual
    expect(error).toBeInstanceOf(BusyError)
    expect(error).toMatchObject({
      status: 503,
      internal: false,
      data: expect.stringContaining('Try it again') as string,
    })
  })
  it.each(['1', '0', '2.5', 'many'])('wants more than %s connections, and says so', async (asked) => {
    await closeDatabase()
    process.env.KEG_DATABASE_CONNECTIONS = asked
    await expect(inShop(randomUUID(), async () => 1)).rejects.toThrow(
      /KEG_DATABASE_CONNECTIONS is .*: give a whole number from 2/,
    )
    delete process.env.KEG_DATABASE_CONNECTIONS
  })
  it('who waits for a job holds no connection: with two, forty writers on one leave the other free', async () => {
    await closeDatabase()
    process.env.KEG_DATABASE_CONNECTIONS = '2'
    const [shop, other] = [await aShop(), await aShop()]
    const jobId = await aJob(shop)
    const first = held()
    const holding = onJob(shop.shopId, jobId, first.work)
    const waiting = Array.from({ length: 25 }, () => onJob(shop.shopId, jobId, async () => 'written'))
    // Another shop is served meanwhile.
    expect(
      await note(other, await aJob(other), anEntry('job-described', { title: 'Elsewhere' })),
    ).toBeDefined()
    first.end()
    await holding
    expect(new Set(await Promise.all(waiting))).toEqual(new Set(['written']))
    await closeDatabase()
    delete process.env.KEG_DATABASE_CONNECTIONS
  })
})
