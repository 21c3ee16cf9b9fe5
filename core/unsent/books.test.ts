import { describe, expect, it } from 'vitest'
import { aCylinderRecord } from '../../testing/a-cylinder-record'
import { wrote } from '../../testing/an-entry'
import { type Entry, foldTape } from '../tape'
import { cylindersAfter, gainedFrom, ownReservations, systemAfter } from '.'

// 12 kg of tare; every figure below is reckoned by hand.
const tern = (over: Parameters<typeof aCylinderRecord>[0] = {}) =>
  aCylinderRecord({
    cylinderId: 'tern',
    tareMg: 12e6,
    balanceMg: 0,
    refrigerant: null,
    condition: 'clean',
    ...over,
  })
const described = wrote('job-described', { systemId: 's', refrigerant: 'R-410A' }, 1_000)
const start = (over: Partial<Entry['body']> = {}) =>
  wrote(
    'run-started',
    {
      runId: 'r',
      use: 'recover',
      cylinderId: 'tern',
      scale: '',
      mode: 'gross',
      weightMg: 12e6,
      bookedMg: 12e6,
      ...over,
    } as never,
    2_000,
  )
const end = (weightMg: number) => wrote('run-ended', { runId: 'r', weightMg, hoseMg: 0 }, 3_000)
const ahead = (before: Entry[], more: Entry[]) => ({
  before: foldTape(before),
  after: foldTape([...before, ...more]),
})

describe('cylinders', () => {
  it('have what was recovered into them, their gas, and are no longer clean', () => {
    const { cylinders, ahead: touched } = cylindersAfter(
      [tern(), tern({ cylinderId: 'gull' })],
      [ahead([described], [start(), end(14_500_000)])],
    )
    expect(cylinders[0]).toMatchObject({ balanceMg: 2_500_000, refrigerant: 'R-410A', condition: 'used' })
    expect(cylinders[1]).toEqual(tern({ cylinderId: 'gull' }))
    expect([...touched]).toEqual(['tern'])
  })
  it('count what the books have already once only', () => {
    // The books know of 2.5 kg: what is ahead of them is the correction to 2.1.
    const known = [described, start(), end(14_500_000)]
    const corrected = wrote('correction', {
      entryId: known[2]!.entryId,
      kind: 'run-ended',
      body: { runId: 'r', weightMg: 14_100_000, hoseMg: 0 },
      reason: 'misread',
    } as never)
    const row = tern({ balanceMg: 2_500_000, refrigerant: 'R-410A', condition: 'used' })
    expect(cylindersAfter([row], [ahead(known, [corrected])]).cylinders[0]!.balanceMg).toBe(2_100_000)
    expect(cylindersAfter([row], [ahead(known, [])]).ahead.size).toBe(0)
  })
  it('of another gas are mixed, and stay so', () => {
    const row = tern({ refrigerant: 'R-134a', condition: 'used', balanceMg: 1e6 })
    const after = cylindersAfter([row], [ahead([described], [start(), end(13e6)])]).cylinders[0]!
    expect(after).toMatchObject({ refrigerant: 'R-134a', condition: 'mixed', balanceMg: 2e6 })
  })
  it('are marked where the first weight was not that of the books: beyond 1 % and 20 g, by all of it', () => {
    // 12 kg by the books: up to 100 g are the scale's.
    const begun = (weightMg: number) =>
      cylindersAfter([tern()], [ahead([described], [start({ weightMg } as never)])]).cylinders[0]!.offMg
    expect(begun(12_100_000)).toBe(0)
    expect(begun(12_100_001)).toBe(100_001)
    expect(begun(11_850_000)).toBe(-150_000)
  })
  it('keep room free for what is planned, and less of it as it comes', () => {
    const choice = wrote('cylinder-chosen', { cylinderId: 'tern', use: 'recover', massMg: 4e6 }, 1_500)
    const planned = cylindersAfter([tern()], [ahead([described], [choice])]).cylinders[0]!
    expect(planned.reservedMg).toBe(4e6)
    const come = cylindersAfter([tern()], [ahead([described], [choice, start(), end(13e6)])]).cylinders[0]!
    // 4 kg planned, 1 kg of it in the books: 3 kg are still to come.
    expect(come).toMatchObject({ reservedMg: 3e6, balanceMg: 1e6 })
    expect(ownReservations(foldTape([described, choice])).get('tern')).toBe(4e6)
  })
  it('give what is charged and what stays in the hoses', () => {
    const charge = [start({ use: 'charge', weightMg: 20e6, bookedMg: 20e6 } as never)]
    const done = wrote('run-ended', { runId: 'r', weightMg: 18e6, hoseMg: 50_000 }, 3_000)
    const row = tern({ balanceMg: 8e6, refrigerant: 'R-410A', kind: 'virgin' })
    const job = ahead([described], [...charge, done])
    expect(cylindersAfter([row], [job]).cylinders[0]!.balanceMg).toBe(6e6)
    expect(gainedFrom(job.after).get('tern')).toBe(-2e6)
  })
})

describe('a system', () => {
  it('holds less by what came out, and never less than nothing', () => {
    const job = ahead([described], [start(), end(14e6)])
    expect(systemAfter('s', 3e6, job)).toBe(1e6)
    // More came out than the books had: it was there before Keg knew it.
    expect(systemAfter('s', 1_500_000, job)).toBe(0)
    expect(systemAfter('another', 3e6, job)).toBe(3e6)
  })
  it('holds more by what went in, the hoses apart', () => {
    const job = ahead(
      [described],
      [
        start({ use: 'charge', weightMg: 20e6, bookedMg: 20e6 } as never),
        wrote('run-ended', { runId: 'r', weightMg: 18e6, hoseMg: 50_000 }, 3_000),
      ],
    )
    expect(systemAfter('s', 0, job)).toBe(1_950_000)
  })
})
