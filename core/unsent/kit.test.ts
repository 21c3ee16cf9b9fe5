// Kit with what jobs have ahead of the books: what a machine holds now decides what it may pull next.
import { describe, expect, it } from 'vitest'
import { wrote } from '../../testing/an-entry'
import { asPiece, type KitKind, mayUse } from '../kit'
import { type Entry, foldTape } from '../tape'
import { kitAfter } from '.'

const MIN = 60_000
const at = (minutes: number) => new Date(minutes * MIN)
const piece = (over: object = {}, kind: KitKind = 'machine') => ({
  kitId: 'quay',
  kind,
  label: 'Quay machine',
  facts: {},
  state: 'in-use' as const,
  balanceMg: 0,
  lastGas: null,
  gasAt: null,
  purgedAt: null,
  passedMg: 0,
  ...over,
})
const uses = (kitId = 'quay', kind: KitKind = 'machine') =>
  wrote('kit-used', { kitId, kind, label: 'Quay machine', facts: {} }, 1 * MIN)
/** A pull of 2.5 kg that ends ten minutes after it began. */
const pull = (from: number, runId = 'r'): [start: Entry, end: Entry] => [
  wrote(
    'run-started',
    { runId, use: 'recover', cylinderId: 'tern', scale: '', mode: 'gross', weightMg: 12e6, bookedMg: 12e6 },
    from * MIN,
  ),
  wrote('run-ended', { runId, weightMg: 14.5e6, hoseMg: 0 }, (from + 10) * MIN),
]
const described = (refrigerant: string) => wrote('job-described', { systemId: 's', refrigerant }, 0)
const ahead = (before: Entry[], more: Entry[]) => ({
  before: foldTape(before),
  after: foldTape([...before, ...more]),
})
const one = (row: ReturnType<typeof piece>, ...jobs: ReturnType<typeof ahead>[]) => kitAfter([row], jobs)[0]!

describe('a machine', () => {
  it('that pulled one gas here may not pull another before it is purged', () => {
    const after = one(piece(), ahead([], [described('R-404A'), uses(), ...pull(2)]))
    expect(after).toMatchObject({ lastGas: 'R-404A', gasAt: at(12), purgedAt: null, passedMg: 2_500_000 })
    expect(mayUse(asPiece(after), 'R-410A')).toEqual(['holds-another-gas'])
    expect(mayUse(asPiece(after), 'R-404A')).toEqual([])
  })
  it('that purged itself after it may', () => {
    const purged = wrote('step-done', { step: 'self-purged' }, 13 * MIN)
    const after = one(piece(), ahead([], [described('R-404A'), uses(), ...pull(2), purged]))
    expect(after).toMatchObject({ lastGas: 'R-404A', purgedAt: at(13) })
    expect(mayUse(asPiece(after), 'R-410A')).toEqual([])
  })
  it('that keeps some holds it, and is not purged', () => {
    const kept = wrote('rig-kept', { kitId: 'quay', massMg: 150_000 }, 14 * MIN)
    const purged = wrote('step-done', { step: 'self-purged' }, 13 * MIN)
    const before = [described('R-404A'), uses(), ...pull(2), purged]
    // The books have the purge; that something stayed in it is not known there yet.
    const row = piece({ lastGas: 'R-404A', gasAt: at(12), purgedAt: at(13), passedMg: 2_500_000 })
    const after = one(row, ahead(before, [kept]))
    expect(after).toMatchObject({ balanceMg: 150_000, purgedAt: null, passedMg: 2_500_000 })
    expect(mayUse(asPiece(after), 'R-410A')).toEqual(['holds-another-gas'])
  })
  it('counts what the books have already once only', () => {
    const known = [described('R-404A'), uses(), ...pull(2)]
    const row = piece({ lastGas: 'R-404A', gasAt: at(12), passedMg: 7_500_000 })
    expect(one(row, ahead(known, []))).toEqual(row)
    // Misread: 2.1 kg came, not 2.5.
    const end = known.at(-1)!
    const body = { runId: 'r', weightMg: 14.1e6, hoseMg: 0 }
    const correction = { entryId: end.entryId, kind: 'run-ended', body, reason: 'misread' }
    const put = wrote('correction', correction as never, 20 * MIN)
    expect(one(row, ahead(known, [put])).passedMg).toBe(7_100_000)
  })
  it('that others pulled with since has their gas, not the older one of a job here', () => {
    const row = piece({ lastGas: 'R-32', gasAt: at(60) })
    expect(one(row, ahead([], [described('R-404A'), uses(), ...pull(2)]))).toMatchObject({
      lastGas: 'R-32',
      gasAt: at(60),
    })
  })
  it('has the gas of the last of several jobs here', () => {
    const first = ahead([], [described('R-404A'), uses(), ...pull(2)])
    const second = ahead([], [described('R-134a'), uses(), ...pull(30)])
    for (const jobs of [
      [first, second],
      [second, first],
    ])
      expect(one(piece(), ...jobs)).toMatchObject({ lastGas: 'R-134a', passedMg: 5_000_000 })
  })
})

describe('other kit', () => {
  it('is as it was: a scale holds nothing, and what no job used has not changed', () => {
    const jobs = [ahead([], [described('R-404A'), uses(), ...pull(2)])]
    const [scale, other] = [piece({ kitId: 'scale' }, 'scale'), piece({ kitId: 'van' })]
    const after = kitAfter([scale, other], jobs)
    expect(after[0]).toBe(scale)
    expect(after[1]).toBe(other)
  })
  it('a hose holds what charging left in it', () => {
    const hose = piece({ kitId: 'hose', balanceMg: 10_000 }, 'hoses')
    const start = {
      runId: 'c',
      use: 'charge',
      cylinderId: 'tern',
      scale: '',
      mode: 'gross',
      weightMg: 22e6,
      bookedMg: 22e6,
    } as const
    const charged = [
      described('R-404A'),
      uses('hose', 'hoses'),
      wrote('run-started', start, 2 * MIN),
      wrote('run-ended', { runId: 'c', weightMg: 20e6, hoseMg: 40_000 }, 12 * MIN),
    ]
    expect(one(hose, ahead([], charged)).balanceMg).toBe(50_000)
  })
})
