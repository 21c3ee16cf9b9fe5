// The made-up harbour is a proof of its own: a year of jobs whose books come out right.
import { expect, it } from 'vitest'
import { testDate } from '#core/cylinders'
import { foldTape } from '#core/tape'
import {
  devices,
  inShop,
  jobPage,
  jobsInHand,
  liveChannels,
  movements,
  people,
  rack,
  samplesOf,
  systems,
  tapeOf,
} from '#db'
import { ownDatabase } from '../testing/a-database'
import { loadHarbour } from './harbour'
import { idFor } from './ids'

const NOW = new Date('2026-11-24T10:40:00Z')
const shopId = idFor('shop')
const PAGE = { number: 1, size: 100, sort: 'lastAt', down: true } as const

ownDatabase('keg_harbour_test', () => loadHarbour(NOW))

it('has what a first look needs', async () => {
  await inShop(shopId, async (tx) => {
    const { cylinders } = await rack(tx, {}, 1, 100)
    expect(cylinders.length).toBeGreaterThanOrEqual(14)
    expect(new Set(cylinders.map((c) => c.refrigerant)).size).toBeGreaterThan(6)
    expect(cylinders.some((c) => c.kind === 'one-way')).toBe(true)
    expect(cylinders.some((c) => c.condition === 'doubtful')).toBe(true)
    const overdue = cylinders.filter(
      (c) => testDate(c.testedOn, c.testYears, '2026-11-24').state === 'overdue',
    )
    expect(overdue).toHaveLength(1)
    const list = await systems(tx, '')
    expect(list.length).toBeGreaterThanOrEqual(10)
    expect(new Set(list.map((s) => s.trade))).toEqual(new Set(['stationary', 'vehicle']))
    expect(await people(tx)).toHaveLength(5)
    const { jobs: all } = await jobPage(tx, {}, PAGE)
    expect(all.filter((j) => j.status === 'closed')).toHaveLength(8)
    expect((await jobsInHand(tx)).map((j) => j.status).sort()).toEqual([
      'open',
      'open',
      'open',
      'open',
      'waiting',
    ])
    const oldest = Math.min(...all.map((j) => j.openedAt.getTime()))
    expect(NOW.getTime() - oldest).toBeLessThan(366 * 24 * 3600e3)
  })
})

it('has books that come out right: nothing below zero, every weight on the next as it was left', async () => {
  await inShop(shopId, async (tx) => {
    const { cylinders } = await rack(tx, {}, 1, 100)
    for (const c of cylinders) expect(c.balanceMg, c.label).toBeGreaterThanOrEqual(0)
    for (const s of await systems(tx, '')) expect(s.balanceMg, s.name).toBeGreaterThanOrEqual(0)
    expect(await movements(tx, {}, 500)).not.toEqual([])
    for (const job of (await jobPage(tx, {}, PAGE)).jobs) {
      const state = foldTape(await tapeOf(tx, job.jobId))
      expect(
        state.against.map(({ codes }) => codes),
        job.title,
      ).toEqual([])
      expect(state.flags, job.title).toEqual([])
      expect([state.recoveredMg, state.chargedMg]).toEqual([job.recoveredMg, job.chargedMg])
      for (const { verdict } of state.verdicts) expect(verdict.reasons.length).toBeGreaterThan(0)
    }
  })
})

it('two rigs and two stations are there; the rigs have spoken up to now, and the notes of their jobs name the samples they were read off', async () => {
  await inShop(shopId, async (tx) => {
    const rigs = await devices(tx)
    expect(rigs.map(({ name, standIn, refused }) => [name, standIn, refused])).toEqual([
      ['Rig at the bridge unit', true, 0],
      ['Rig at the herring store', true, 0],
      ['Station 1', true, 0],
      ['Station 2', true, 0],
    ])
    for (const { jobId, title } of (await jobsInHand(tx)).filter((job) => job.status === 'open')) {
      // Vehicles that wait for a station have none yet.
      if (['Cab stays warm', 'Blows warm after the winter'].includes(title)) continue
      const channels = await liveChannels(tx, jobId)
      expect(channels.length, title).toBeGreaterThanOrEqual(2)
      const read = (await tapeOf(tx, jobId)).filter((entry) => entry.sample)
      expect(read.length, title).toBeGreaterThanOrEqual(2)
      for (const { sample, body, at } of read) {
        const { deviceId, channel, seq } = sample!
        const heard = await samplesOf(tx, { deviceId, channel }, new Date(at), new Date(at))
        expect(heard.seq).toEqual([seq])
        const noted = body as { weightMg?: number; pressurePa?: number }
        if (channel === 'weight') expect(noted.weightMg).toBe(Math.round(heard.value[0]! * 1e6))
        else expect(noted.pressurePa).toBe(heard.value[0])
      }
    }
  })
})

it('fills no cylinder past its limit, and names nothing but its own scenario', async () => {
  const { seen } = await import('../app/cylinders/condition')
  await inShop(shopId, async (tx) => {
    const { cylinders } = await rack(tx, {}, 1, 100)
    const tags = cylinders.map((c) => seen(c, 0, '2026-11-24').tags.map(([text]) => text))
    expect(tags.flat()).not.toContain('over its limit')
    expect(tags.filter((t) => t.includes('near its limit'))).toHaveLength(1)
  })
})
