import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Channel } from '#core/samples'
import { aJob, anEntry, type AShop, aShop, note } from '../../testing/a-shop'
import { askDirectory } from '../connection'
import * as db from '..'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(db.closeDatabase)

const DAY = 86_400_000
const now = new Date()
const inMine = <T>(work: (tx: db.ShopTx) => Promise<T>) => db.inShop(shop.shopId, work)

async function aDevice(channels: Channel[] = ['weight', 'low'], of = shop, pairedAt = now) {
  const deviceId = randomUUID()
  const token = await db.inShop(of.shopId, (tx) =>
    db.addDevice(tx, { deviceId, name: 'Van 1', channels, standIn: false }, of.userId, pairedAt),
  )
  return { deviceId, token }
}
async function aScale(facts = {}) {
  const kitId = randomUUID()
  const label = `Scale ${kitId.slice(0, 6)}`
  await inMine((tx) =>
    db.addKit(tx, kitId, { kind: 'scale', label, keepsAt: '', facts, state: 'in-use' }, now),
  )
  return kitId
}
const sample = (seq: number, value: unknown = 12, over = {}) => ({
  channel: 'weight',
  seq,
  at: now.getTime() - 10_000 + seq * 100,
  value,
  ...over,
})
const take = (deviceId: string, samples: unknown[], at = now) =>
  db.takeSamples(shop.shopId, deviceId, samples, at)
const count = async (deviceId: string) =>
  (
    await inMine((tx) => tx<{ n: number }[]>`select count(*) as n from sample where device_id = ${deviceId}`)
  )[0]!.n

describe('a batch', () => {
  it('is taken once, however often it is sent', async () => {
    const { deviceId } = await aDevice()
    const batch = [1, 2, 3].map((seq) => sample(seq))
    expect(await take(deviceId, batch)).toEqual({ accepted: 3, known: 0, refused: [], batch: 1 })
    expect(await take(deviceId, batch)).toEqual({ accepted: 0, known: 3, refused: [] })
    expect(await take(deviceId, [sample(3), sample(4)])).toMatchObject({ accepted: 1, known: 1, batch: 2 })
    expect(await count(deviceId)).toBe(4)
  })

  it('comes back as it was sent, to the millisecond and the last digit, also from the years before 2000', async () => {
    const { deviceId } = await aDevice()
    const times = [now.getTime() - 1, now.getTime() - 999, now.getTime() - 86_399_001]
    const sent = times.map((at, i) => ({ channel: 'weight', seq: 2 ** 52 + i, at, value: 0.1 + i / 3 }))
    await take(deviceId, sent)
    await inMine(
      (tx) => tx`insert into sample (shop_id, device_id, channel, at, seq, value)
        values (current_shop(), ${deviceId}, 'weight', '1999-12-31T23:59:59.999Z', 5, -1.5)`,
    )
    const read = await inMine((tx) =>
      db.samplesOf(tx, { deviceId, channel: 'weight' }, new Date(0), new Date(now.getTime() + 1)),
    )
    expect(read.at).toEqual([946_684_799_999, ...times.toReversed()])
    expect(read.seq).toEqual([5, ...sent.map((each) => each.seq).toReversed()])
    expect(read.value).toEqual([-1.5, ...sent.map((each) => each.value).toReversed()])
  })

  it('of many devices at once: each is answered for itself, and a bad one takes no other with it', async () => {
    const some = await Promise.all(Array.from({ length: 8 }, () => aDevice()))
    const [first, second] = [some[0]!, some[1]!]
    await inMine((tx) => db.revokeDevice(tx, second.deviceId, now))
    const answers = await Promise.all([
      ...some.map(({ deviceId }) => take(deviceId, [sample(1), sample(2, 'x')])),
      // The same device again, in the same moment.
      take(first.deviceId, [sample(2), sample(3)]),
      take(randomUUID(), [sample(1)]),
    ])
    expect(answers.map((each) => each?.accepted)).toEqual([1, undefined, 1, 1, 1, 1, 1, 1, 2, undefined])
    expect(answers[0]).toEqual({
      accepted: 1,
      known: 0,
      refused: [{ index: 1, problem: 'no-number' }],
      batch: 1,
    })
    expect(answers[8]).toMatchObject({ batch: 2 })
    expect(await count(first.deviceId)).toBe(3)
    expect(await count(second.deviceId)).toBe(0)
  })

  it('that the database refuses fails alone: the others of its transaction are taken', async () => {
    const [bad, good] = [await aDevice(), await aDevice()]
    // A number that its column cannot hold.
    await inMine(
      (tx) => tx`update device set batches = ${String(2n ** 63n - 1n)} where device_id = ${bad.deviceId}`,
    )
    const together = await Promise.allSettled([
      take(good.deviceId, [sample(0)]),
      take(bad.deviceId, [sample(1)]),
      take(good.deviceId, [sample(1)]),
    ])
    expect(together.map((each) => each.status)).toEqual(['fulfilled', 'rejected', 'fulfilled'])
    expect(await count(good.deviceId)).toBe(2)
    expect(await count(bad.deviceId)).toBe(0)
  })

  it('half good: the good ones are kept, the others said one by one, counted, the last with its reason', async () => {
    const { deviceId } = await aDevice()
    const bad: [object | null | string, db.SampleProblem][] = [
      [null, 'no-sample'],
      ['text', 'no-sample'],
      [sample(1, 12, { device: randomUUID() }), 'other-device'],
      [sample(1, 12, { channel: 'wieght' }), 'unknown-channel'],
      [sample(1, 12, { channel: 'vacuum' }), 'unknown-channel'],
      [sample(1, 12, { channel: 7 }), 'unknown-channel'],
      [sample(1.5), 'no-sequence'],
      [sample(-1), 'no-sequence'],
      [sample(1, 12, { at: '2026-11-26 10:00' }), 'no-time'],
      [sample(1, 12, { at: 'soon' }), 'no-time'],
      [sample(1, 12, { at: now.getTime() + 61_000 }), 'in-the-future'],
      [sample(1, 12, { at: '2999-01-01T00:00:00Z' }), 'in-the-future'],
      [sample(1, 12, { at: now.getTime() - 31 * DAY }), 'too-old'],
      [sample(1, 12, { at: 0 }), 'too-old'],
      [sample(1, 'NaN'), 'no-number'],
      [sample(1, null), 'no-number'],
      [sample(1, 12_000), 'out-of-range'],
    ]
    const taken = await take(deviceId, [sample(0), ...bad.map(([each]) => each), sample(99)])
    expect(taken).toMatchObject({ accepted: 2, known: 0 })
    expect(taken!.refused).toEqual(bad.map(([, problem], i) => ({ index: i + 1, problem })))
    expect((await inMine(db.devices)).find((each) => each.deviceId === deviceId)).toMatchObject({
      refused: bad.length,
      refusedWhy: 'out-of-range',
    })
    expect(await count(deviceId)).toBe(2)
  })

  it('the range is that of the piece of kit', async () => {
    const { deviceId } = await aDevice()
    const kitId = await aScale({ capacityMg: 100e6 })
    await inMine((tx) => db.moveChannel(tx, { deviceId, channel: 'weight', kitId }, now))
    // A tenth more than it may carry.
    expect(await take(deviceId, [sample(1, 109), sample(2, 111)])).toMatchObject({
      accepted: 1,
      refused: [{ index: 1, problem: 'out-of-range' }],
    })
  })

  it('a revoked device is not let in', async () => {
    const { deviceId, token } = await aDevice()
    expect(await db.deviceOf(token)).toEqual({ shopId: shop.shopId, deviceId })
    expect(await inMine((tx) => db.revokeDevice(tx, deviceId, now))).toBe(true)
    expect(await take(deviceId, [sample(1)])).toBeUndefined()
    expect(await inMine((tx) => db.inForce(tx, deviceId))).toBe(false)
    expect(await inMine((tx) => db.revokeDevice(tx, deviceId, now))).toBe(false)
  })

  it('batches of one device sent at the same time are numbered one after the other, and nothing is doubled', async () => {
    const { deviceId } = await aDevice()
    const batches = Array.from({ length: 12 }, (_, i) => [sample(i), sample(i + 1)])
    const taken = await Promise.all(batches.map((batch) => take(deviceId, batch)))
    expect(await count(deviceId)).toBe(13)
    expect(taken.reduce((sum, each) => sum + each!.accepted, 0)).toBe(13)
    const numbers = taken.flatMap((each) => each!.batch ?? []).sort((a, b) => a - b)
    expect(numbers).toEqual(numbers.map((_, i) => i + 1))
    const news = await inMine((tx) => db.samplesAfter(tx, deviceId, 0))
    expect(new Set(news!.samples.map(([, , , seq]) => seq)).size).toBe(13)
  })

  it('another shop sees nothing of it, by no way', async () => {
    const theirs = await aShop()
    const { deviceId } = await aDevice(['weight'], theirs)
    await db.takeSamples(theirs.shopId, deviceId, [sample(1)], now)
    expect(await take(deviceId, [sample(2)])).toBeUndefined()
    expect(await count(deviceId)).toBe(0)
    expect((await inMine(db.devices)).some((each) => each.deviceId === deviceId)).toBe(false)
    expect(await inMine((tx) => db.samplesAfter(tx, deviceId, 0))).toEqual({ batch: 0, samples: [] })
    expect(await inMine((tx) => db.command(tx, deviceId, {}, shop.userId, now))).toBeUndefined()
    await expect(
      inMine(
        (tx) =>
          tx`insert into sample (shop_id, device_id, channel, at, seq, value) values (${theirs.shopId}, ${deviceId}, 'weight', now(), 9, 1)`,
      ),
    ).rejects.toThrow('row-level security')
    await expect(askDirectory((sql) => sql`select * from sample_other`)).rejects.toThrow('permission denied')
  })
})

describe('pairing', () => {
  const code = async (at = now) => {
    const text = db.freshPairingCode()
    await inMine((tx) => db.addPairingCode(tx, text, shop.userId, at))
    return text
  }
  const pair = (text: string, at = now) =>
    db.pairDevice(text, { deviceId: randomUUID(), name: 'Gateway', channels: ['weight'], standIn: false }, at)

  it('a code is traded once, typed as people type', async () => {
    const text = await code()
    expect(text).toMatch(/^[A-Z2-9]{5}-[A-Z2-9]{5}$/)
    const paired = await pair(` ${text.toLowerCase().replace('-', ' ')}`)
    expect(paired).toMatchObject({ shopId: shop.shopId, token: expect.stringMatching(/^kegdev_/) as string })
    expect(await pair(text)).toBeUndefined()
  })
  it('two gateways that trade the same code at once: one of them gets it', async () => {
    const text = await code()
    const both = await Promise.all([pair(text), pair(text), pair(text)])
    expect(both.filter(Boolean)).toHaveLength(1)
  })
  it('after a quarter of an hour it opens nothing, nor does one that was never made', async () => {
    expect(await pair(await code(), new Date(now.getTime() + 16 * 60_000))).toBeUndefined()
    expect(await pair('AAAAA-AAAAA')).toBeUndefined()
  })
})

describe('channels and kit', () => {
  it('what a channel said stays with the kit that it was then', async () => {
    const { deviceId } = await aDevice(['weight'])
    const [first, second, jobId] = [await aScale(), await aScale(), await aJob(shop)]
    const at = (minutes: number) => new Date(now.getTime() + minutes * 60_000)
    const move = (kitId: string | null, minutes: number) =>
      inMine((tx) => db.moveChannel(tx, { deviceId, channel: 'weight', kitId }, at(minutes)))
    await move(first, -60)
    await note(
      shop,
      jobId,
      anEntry(
        'kit-used',
        { kitId: first, kind: 'scale', label: 'S', facts: {} },
        { at: at(-50).getTime(), backdated: true },
      ),
    )
    await move(second, -30)
    await move(second, -20)
    const live = () => inMine((tx) => db.liveChannels(tx, jobId))
    expect(await live()).toMatchObject([{ kitId: first, since: at(-50), until: at(-30) }])
    await move(null, -10)
    expect((await inMine(db.devices)).find((each) => each.deviceId === deviceId)!.channels).toEqual([
      { channel: 'weight', kitId: null, kit: null },
    ])
    expect(await live()).toHaveLength(1)
  })
})

describe('partitions and thinning', () => {
  it('are made ahead, also where samples came before them; asking twice makes none', async () => {
    const { deviceId } = await aDevice(['weight'])
    const day = new Date(Date.UTC(2031, 4, 1 + Math.floor(Math.random() * 300)))
    await inMine(
      (tx) =>
        tx`insert into sample (shop_id, device_id, channel, at, seq, value) values (current_shop(), ${deviceId}, 'weight', ${day}, 1, 5)`,
    )
    await db.makeSamplePartitions(day)
    expect(await db.makeSamplePartitions(day)).toBe(0)
    const [row] = await inMine(
      (tx) =>
        tx<
          { part: string }[]
        >`select tableoid::regclass::text as part from sample where device_id = ${deviceId}`,
    )
    expect(row!.part).toBe(`sample_${day.toISOString().slice(0, 10).replaceAll('-', '')}`)
  })

  it('old samples are thinned to one in ten seconds, those of a job never', async () => {
    const other = await aShop()
    const inOther = <T>(work: (tx: db.ShopTx) => Promise<T>) => db.inShop(other.shopId, work)
    const { deviceId } = await aDevice(['weight'], other, new Date(now.getTime() - 60 * DAY))
    const kitId = randomUUID()
    const old = new Date(`${new Date(now.getTime() - 35 * DAY).toISOString().slice(0, 10)}T06:00:00Z`)
    await inOther((tx) =>
      db.addKit(tx, kitId, { kind: 'scale', label: 'S', keepsAt: '', facts: {}, state: 'in-use' }, old),
    )
    await inOther((tx) => db.moveChannel(tx, { deviceId, channel: 'weight', kitId }, old))
    const noon = new Date(`${old.toISOString().slice(0, 10)}T12:00:00Z`)
    // Two minutes at 1 Hz; the second of them belongs to a job.
    await inOther(
      (tx) => tx`
        insert into sample (shop_id, device_id, channel, at, seq, value)
        select current_shop(), ${deviceId}, 'weight', ${noon}::timestamptz + make_interval(secs => i), i, i from generate_series(0, 119) i`,
    )
    const jobId = await aJob(other)
    const during = (seconds: number) => ({ at: noon.getTime() + seconds * 1_000, backdated: true })
    await note(
      other,
      jobId,
      anEntry('kit-used', { kitId, kind: 'scale', label: 'S', facts: {} }, during(60)),
      anEntry('kit-set-aside', { kitId }, during(119)),
    )
    // 60 of the first minute become 6; the job's 60 stay.
    expect(await db.thinOld(other.shopId, now)).toBe(54)
    const { value } = await inOther((tx) =>
      db.samplesOf(tx, { deviceId, channel: 'weight' }, new Date(0), now),
    )
    expect(value).toEqual([0, 10, 20, 30, 40, 50, ...Array.from({ length: 60 }, (_, i) => 60 + i)])
    expect(await db.thinOld(other.shopId, now)).toBe(0)
    // A shop that keeps less from now on: what is older goes, however old.
    const before = new Date(old.getTime() + 10 * DAY)
    await inOther(
      (tx) => tx`
        insert into sample (shop_id, device_id, channel, at, seq, value)
        select current_shop(), ${deviceId}, 'weight', ${before}::timestamptz + make_interval(secs => i), i, i from generate_series(0, 19) i`,
    )
    expect(await db.thinOld(other.shopId, now)).toBe(0)
    await inOther(async (tx) => {
      await db.lockedShop(tx)
      await db.changeShop(tx, { ...(await db.readShop(tx)), sampleDays: 10 })
    })
    expect(await db.thinOld(other.shopId, now)).toBe(18)
  })
})

describe('listening', () => {
  it('is told at once of what this process takes, in order, each once; one that fails takes no other with it', async () => {
    const { deviceId } = await aDevice(['weight'])
    const batches: number[] = []
    const stopBad = await db.onSamples(shop.shopId, deviceId, undefined, () => {
      throw new Error('gone')
    })
    const stop = await db.onSamples(
      shop.shopId,
      deviceId,
      undefined,
      (news) => news !== 'refetch' && batches.push(news.batch),
    )
    for (let i = 1; i <= 5; i++) {
      await take(deviceId, [sample(i)])
      expect(batches).toEqual(Array.from({ length: i }, (_, k) => k + 1))
    }
    stop()
    stopBad()
  })

  it('misses nothing that is said while it begins', async () => {
    const { deviceId } = await aDevice(['weight'])
    await take(deviceId, [sample(0)])
    const seqs: number[] = []
    const begins = db.onSamples(shop.shopId, deviceId, 0, (news) => {
      if (news !== 'refetch') for (const [, , , seq] of news.samples) seqs.push(seq)
    })
    await Promise.all([1, 2, 3].map((i) => take(deviceId, [sample(i)])))
    const stop = await begins
    await expect.poll(() => [...new Set(seqs)].sort()).toEqual([0, 1, 2, 3])
    stop()
  })

  it('hears what is said, reads on from what it had, and is told when that lies too far back', async () => {
    const { deviceId } = await aDevice(['weight'])
    const heard: (db.News | 'refetch')[] = []
    await take(deviceId, [sample(1)])
    const stop = await db.onSamples(shop.shopId, deviceId, undefined, (news) => heard.push(news))
    await take(deviceId, [sample(2)])
    await take(deviceId, [sample(3)])
    await expect.poll(() => heard.length).toBeGreaterThan(0)
    const seqs = () =>
      heard.flatMap((each) => (each === 'refetch' ? [] : each.samples.map(([, , , seq]) => seq)))
    await expect.poll(seqs).toEqual([2, 3])
    stop()

    const late: (db.News | 'refetch')[] = []
    ;(await db.onSamples(shop.shopId, deviceId, 1, (news) => late.push(news)))()
    expect(late).toMatchObject([
      {
        batch: 3,
        samples: [
          ['weight', expect.any(Number), 12, 2],
          ['weight', expect.any(Number), 12, 3],
        ],
      },
    ])
    // The memory of batches has been tidied: what came between cannot be told one by one.
    await inMine((tx) => tx`update device set batches = 900 where device_id = ${deviceId}`)
    await take(deviceId, [sample(4)])
    const far: (db.News | 'refetch')[] = []
    ;(await db.onSamples(shop.shopId, deviceId, 5, (news) => far.push(news)))()
    expect(far).toEqual(['refetch'])
  })
})

it('commands come in order, once after the number one has', async () => {
  const { deviceId } = await aDevice()
  const ask = (what: object) => inMine((tx) => db.command(tx, deviceId, what, shop.userId, now))
  expect([await ask({ set: { fan: true } }), await ask({ speed: 10 })]).toEqual([1, 2])
  expect(await inMine((tx) => db.commandsAfter(tx, deviceId, 0))).toEqual([
    { nr: 1, command: { set: { fan: true } } },
    { nr: 2, command: { speed: 10 } },
  ])
  expect(await inMine((tx) => db.commandsAfter(tx, deviceId, 2))).toEqual([])
})
