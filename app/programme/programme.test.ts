// Programmes of a station, from the order to the books: a simulated station and a real database, no network between them.
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { stopProgramme } from './hands.server'
import type { PlannedStep } from '#core/programme'
import {
  closeDatabase,
  commandsAfter,
  cylinderOf,
  inShop,
  programmesRunning,
  siteNamed,
  stations,
  unseenAlarms,
} from '#db'
import { holdVerdict, leftOf, nextStep, runningProgramme } from '#core/tape'
import { type ABay, aBay, usualSteps } from '../../testing/a-bay'
import { anEntry, type AShop, aShop, NOW, note } from '../../testing/a-shop'
import { aVehicleJob } from '../../testing/a-station'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)

const G = 1_000
const within = <T>(work: Parameters<typeof inShop<T>>[1]) => inShop(shop.shopId, work)
const tankOf = async ({ tankId }: ABay) => (await within((tx) => cylinderOf(tx, tankId)))!.balanceMg
const asked = (bay: ABay, jobId: string, ask: string) =>
  bay.run(jobId, (state) => runningProgramme(state)?.asks?.ask === ask)

describe('a vehicle from the order to the last hose', () => {
  it('is on the tape as if hands had noted it, and the books are true', async () => {
    const bay = await aBay(shop)
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay))
    const state = await bay.run(jobId)
    expect(state.flags).toEqual([])
    expect(state.programmes).toMatchObject([{ ended: { how: 'finished' } }])
    expect(state.programmes[0]!.course.every((each) => each.doneAt !== undefined)).toBe(true)
    // 78 % of 550 g were in it: 429, of which some 20 stay in oil and vapour.
    expect(state.recoveredMg / G).toBeGreaterThan(390)
    expect(state.recoveredMg / G).toBeLessThan(435)
    // Two readings of 5 g, and 2 g of noise.
    expect(Math.abs(state.chargedMg / G - 550)).toBeLessThanOrEqual(15)
    expect(state.oil).toMatchObject({ outMl: 14, inMl: 14 })
    expect(state.dyed).toBe(true)
    expect(state.gasTests).toMatchObject([{ passed: true, found: 'R-134a', purityPct: 99.6 }])
    const hold = state.holds[0]!
    expect(holdVerdict(state, hold).code).toBe('held-by-manifold')
    expect(state.temperatureNotes.filter((each) => each.point === 'vent')).toHaveLength(2)
    expect(await tankOf(bay)).toBe(8_000_000 + state.recoveredMg - state.chargedMg)
    expect(nextStep(state)).toBe('close-job')
  })
  it('passes its hold by the verdict of the tape, and nobody is called for that', async () => {
    const bay = await aBay(shop)
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay, 'before', 'after', 'clear', 'dye', 'oil-in'))
    const state = await bay.run(jobId)
    const hands = state.lines.filter(({ entry }) => entry.kind === 'hand-given')
    // Hoses and vents by hand, the hold by itself.
    expect(hands).toHaveLength(3)
    expect(hands.map(({ entry }) => entry.deviceId.split('-')[0])).toEqual(['hand', 'passed', 'hand'])
    // Nothing cleared: what it weighed at the end counts.
    expect(state.transfers.every((each) => each.endedAt !== undefined)).toBe(true)
  })
})

describe('stopped in the middle, the books are true, and it is said what comes next', () => {
  it('the power is gone in the charge: what went in counts, and the rest is left', async () => {
    const bay = await aBay(shop)
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay))
    await asked(bay, jobId, 'sniff-vents')
    bay.restart()
    const state = await bay.run(jobId)
    expect(state.programmes[0]!.ended).toMatchObject({ how: 'stopped', why: 'power-lost', step: 'charge' })
    // 15 % of 550 g.
    expect(Math.abs(state.chargedMg / G - 82.5)).toBeLessThanOrEqual(15)
    expect(await tankOf(bay)).toBe(8_000_000 + state.recoveredMg - state.chargedMg)
    expect(leftOf(state.programmes[0]!, state).map((each) => each.step)).toEqual(['charge', 'after', 'clear'])
    expect(nextStep(state)).toBe('go-on-charging')
  })
  it('the identifier says no: nothing was moved, and the gas is known as foul', async () => {
    const bay = await aBay(shop, { gas: 'R-1234yf', purityPct: 97 })
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay))
    const state = await bay.run(jobId)
    expect(state.programmes[0]!.ended).toMatchObject({ why: 'not-the-gas', step: 'identify' })
    expect(state.gasTests).toMatchObject([{ passed: false, found: 'R-1234yf' }])
    expect(state.transfers).toEqual([])
    expect(await tankOf(bay)).toBe(8_000_000)
    const alarms = await within((tx) => unseenAlarms(tx, shop.userId))
    expect(alarms.filter((each) => each.jobId === jobId).map((each) => each.code)).toEqual([
      'station-stopped',
    ])
  })
  it('a leak under vacuum: the hold ends with what it read, and failed', async () => {
    const bay = await aBay(shop, { leakPaS: 15 })
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay))
    const state = await bay.run(jobId)
    expect(state.programmes[0]!.ended).toMatchObject({ why: 'pressure-lost', step: 'hold' })
    const hold = state.holds[0]!
    expect(hold.endedAt).toBeDefined()
    expect(holdVerdict(state, hold).outcome).toBe('bad')
    expect(nextStep(state)).toBe('check-leaks')
    // Vacuum and hold again, and the oil that was drained goes back: done they are, and do not stand.
    const left = leftOf(state.programmes[0]!, state)
    expect(left.map((each) => each.step)).toEqual([
      'vacuum',
      'hold',
      'oil-in',
      'dye',
      'charge',
      'after',
      'clear',
    ])
    expect(left[2]).toMatchObject({ volumeMl: state.oil.outMl, withDrained: false })
    expect(state.oil.outMl).toBe(14)
    // And without them it asks.
    const unproved = left.filter((each) => each.step !== 'vacuum')
    await expect(bay.begin(jobId, unproved)).rejects.toThrow('Tick Vacuum and Hold')
  })
  it('the vents smell of it: a leak was found, and only a share is in', async () => {
    const bay = await aBay(shop)
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay))
    const state = await bay.run(jobId, undefined, 'sniff-vents')
    expect(state.programmes[0]!.ended).toMatchObject({ why: 'answered-no', step: 'charge' })
    expect(state.leakChecks.at(-1)).toMatchObject({ found: true, text: 'cabin vents' })
    expect(state.chargedMg).toBeLessThan(100 * G)
  })
  it('another programme goes on with what is left, on the same vehicle, to the same target', async () => {
    const bay = await aBay(shop)
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay, 'before'))
    await asked(bay, jobId, 'sniff-vents')
    bay.restart()
    const half = await bay.run(jobId)
    await bay.begin(jobId, leftOf(half.programmes[0]!, half))
    const state = await bay.run(jobId)
    expect(state.programmes.map((each) => each.ended?.how)).toEqual(['stopped', 'finished'])
    expect(state.target!.massMg).toBe(550 * G)
    expect(Math.abs(state.chargedMg / G - 550)).toBeLessThanOrEqual(20)
    expect(await tankOf(bay)).toBe(8_000_000 + state.recoveredMg - state.chargedMg)
    expect(state.flags).toEqual([])
  })
  it('a station that nobody hears any more is left alone: the weight is noted by hand, and what it says later does no harm', async () => {
    const bay = await aBay(shop)
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay))
    await asked(bay, jobId, 'sniff-vents')
    await stopProgramme({ shopId: shop.shopId, userId: shop.userId }, { jobId, leave: true }, bay.now())
    const alone = await bay.state(jobId)
    expect(nextStep(alone)).toBe('charge-on')
    const [charge] = alone.transfers.filter((each) => each.use === 'charge')
    const weightMg = charge!.segments[0]!.firstMg - 80 * G
    await note(
      shop,
      jobId,
      anEntry('run-ended', { runId: charge!.transferId, weightMg }, { at: bay.now().getTime() + 1 }),
    )
    const state = await bay.run(jobId)
    expect(state.chargedMg).toBe(80 * G)
    expect(state.programmes[0]!.ended!.how).toBe('left-alone')
  })
})

describe('who may begin', () => {
  const refused = (bay: ABay, jobId: string, steps = usualSteps(bay)) =>
    bay.begin(jobId, steps).then(
      () => 'begun',
      (error: Error) => error.message,
    )
  it('one at a time on a station: the other job is named, and nothing of it is kept', async () => {
    const bay = await aBay(shop)
    const [one, two] = [await bay.vehicle(), await bay.vehicle()]
    await bay.begin(one, usualSteps(bay))
    expect(await refused(bay, two)).toMatch(/is at job \d+: wait until it is done/)
    expect((await bay.state(two)).programmes).toEqual([])
    expect((await bay.state(two)).kit).toEqual([])
  })
  it('two at the same moment: one of them', async () => {
    const bay = await aBay(shop)
    const jobs = [await bay.vehicle(), await bay.vehicle()]
    const said = await Promise.all(jobs.map((jobId) => refused(bay, jobId)))
    expect(said.filter((each) => each === 'begun')).toHaveLength(1)
    expect(
      await within((tx) => programmesRunning(tx)).then((all) => all.filter((p) => jobs.includes(p.jobId))),
    ).toHaveLength(1)
  })
  it('a high-voltage compressor gets no PAG, and no oil through hoses that nobody has cleared', async () => {
    const bay = await aBay(shop)
    const jobId = await bay.vehicle()
    await note(shop, jobId, anEntry('drive-noted', { drive: 'high-voltage' }, { at: bay.now().getTime() }))
    expect(await refused(bay, jobId)).toMatch(/holds PAG: that oil does not belong/)
    expect(await refused(bay, jobId, usualSteps(bay, 'oil-in'))).toBe('begun')
  })
  it('another gas than the tank holds, and a whole charge on top of what is in it', async () => {
    const bay = await aBay(shop)
    const other = await bay.vehicle(550_000, 'R-1234yf')
    expect(await refused(bay, other)).not.toBe('begun')
    const full = await bay.vehicle()
    expect(await refused(bay, full, usualSteps(bay, 'recover'))).toMatch(/^Charge: It is not empty/)
  })
  it('a second charge on top of the first, and ten times the plate, are slips', async () => {
    const bay = await aBay(shop)
    const jobId = await bay.vehicle()
    const charge = (massMg: number) =>
      usualSteps(bay).map((each) => (each.step === 'charge' ? { ...each, massMg } : each))
    expect(await refused(bay, jobId, charge(5_500_000))).toMatch(/^Charge: That is more than its charge/)
    await bay.begin(jobId, usualSteps(bay, 'before', 'after'))
    await bay.run(jobId)
    const again = charge(550_000).filter((each) => each.step === 'charge' || each.step === 'clear')
    expect(await refused(bay, jobId, again)).toMatch(/^Charge: That is more than its charge/)
  })
  it('through a filter that has passed its kilograms nothing is drawn; vacuum and charge need none', async () => {
    const bay = await aBay(shop, {}, { filterLifeMg: 400 * G })
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay, 'before', 'after'))
    await bay.run(jobId)
    const next = await bay.vehicle()
    expect(await refused(bay, next)).toMatch(/has passed its kilograms: fit a new one/)
    expect(await refused(bay, next, usualSteps(bay, 'recover', 'charge'))).toBe('begun')
  })
  it('more than the tank can give', async () => {
    const bay = await aBay(shop)
    // 8 kg and the 7 kg that come, less 2 that stay, are less than 14.
    const jobId = await bay.vehicle(14_000_000)
    const much = usualSteps(bay).map((each) =>
      each.step === 'charge' ? { ...each, massMg: 14_000_000 } : each,
    )
    expect(
      await refused(
        bay,
        jobId,
        much.filter((each) => each.step !== 'recover'),
      ),
    ).not.toBe('begun')
    const small = await bay.vehicle(7_000_000)
    const dry = usualSteps(bay).map((each) =>
      each.step === 'charge' ? { ...each, massMg: 7_000_000 } : each,
    )
    await note(shop, small, anEntry('recovery-ended', { how: 'elsewhere' }, { at: bay.now().getTime() }))
    // Empty by somebody else: nothing comes, and 8 kg are less than 7 and the 2 that stay.
    expect(
      await refused(
        bay,
        small,
        dry.filter((each) => each.step !== 'recover'),
      ),
    ).toMatch(/has too little in it/)
  })
  it('on a mountain a recovery goes as far below the thinner air there', async () => {
    const bay = await aBay(shop)
    const siteId = randomUUID()
    await within((tx) =>
      siteNamed(tx, { siteId, customerId: shop.customerId, name: 'Pass', altitudeM: 1_500, at: NOW }),
    )
    const jobId = await aVehicleJob(shop, { siteId })
    await bay.begin(jobId, usualSteps(bay))
    const [first] = await within((tx) => commandsAfter(tx, bay.deviceId, 0))
    const { steps } = first!.command.programme as { steps: PlannedStep[] }
    // 101325 (1 - 2.25577e-5 x 1500)^5.25588 = 84 556, less 13 599.
    expect(steps.find((each) => each.step === 'recover')!.downToPa).toBe(70_957)
  })
  it('a station is named with its tank and the job that it is at', async () => {
    const bay = await aBay(shop)
    const jobId = await bay.vehicle()
    await bay.begin(jobId, usualSteps(bay))
    const own = (await within((tx) => stations(tx))).find((each) => each.kitId === bay.kitId)
    expect(own).toMatchObject({ tankId: bay.tankId, tankGas: 'R-134a', busyJob: jobId })
  })
})
