import { describe, expect, it } from 'vitest'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import type { CylinderRow } from '#db'
import { aCylinderRecord } from '../../testing/a-cylinder-record'
import { seen } from './condition'
import { plainDateDue } from './due'
import { cylinderFrom } from './fields'

const TODAY = '2026-06-01'
const row = (over: Partial<CylinderRow> = {}): CylinderRow => ({
  ...aCylinderRecord({ condition: 'used' }),
  version: 1,
  keepsAt: '',
  owner: null,
  weighedAt: null,
  ...over,
})

describe('seen', () => {
  const tags = (over: Partial<CylinderRow>) => seen(row(over), 0, TODAY).tags.map(([text]) => text)
  it('draws level and limit, with the share of the limit and what governs it', () => {
    const sight = seen(row(), 0, TODAY)
    expect(sight.level).toBeCloseTo(0.213, 2)
    expect(sight.limit).toBeCloseTo(0.736, 2)
    expect(sight.share).toBeCloseTo(5 / 17.28, 3)
    expect(sight).toMatchObject({ grossLimitMg: 29_280_000, governs: 'weight-80', tags: [] })
    expect(seen(row(), 10, TODAY).grossLimitMg).toBe(12_000_000 + 15_552_000)
  })
  it('says in words what is amiss', () => {
    expect(tags({ balanceMg: 16_000_000 })).toEqual(['near its limit'])
    expect(tags({ balanceMg: 17_300_000 })).toEqual(['over its limit'])
    expect(tags({ testedOn: '2020-01-01' })).toEqual(['test run out'])
    expect(tags({ testedOn: '2021-06-15' })).toEqual(['test due'])
    expect(tags({ testedOn: null })).toEqual(['test unknown'])
    expect(tags({ condition: 'doubtful' })).toEqual(['doubtful gas'])
    expect(tags({ condition: 'mixed', balanceMg: -5 })).toEqual(['mixed gas', 'books below zero'])
    expect(tags({ reservedMg: 1 })).toEqual(['reserved'])
  })
  it("leaves a supplier's filling to the supplier, and one-way cylinders without a test", () => {
    expect(tags({ kind: 'virgin', balanceMg: 17_500_000 })).toEqual([])
    expect(tags({ kind: 'one-way', testedOn: null })).toEqual([])
  })
  it('takes the lightest of all for mixed contents', () => {
    expect(seen(row({ condition: 'mixed' }), 0, TODAY).grossLimitMg).toBeLessThan(12_000_000 + 9_000_000)
  })
  it('draws no level where none can be known', () => {
    expect(seen(row({ waterCapacityMg: null }), 0, TODAY)).toMatchObject({ level: 0 })
    expect(seen(row({ refrigerant: null }), 0, TODAY)).toMatchObject({ level: 0 })
    expect(seen(row({ refrigerant: 'R-744' }), 0, TODAY)).toMatchObject({ level: 0 })
  })
})

it('plainDateDue is the last day on which it may be filled', () => {
  expect(plainDateDue(row(), TODAY)).toBe('2030-03-01')
  expect(plainDateDue(row({ testedOn: null }), TODAY)).toBeNull()
})

describe('cylinderFrom', () => {
  const fields = {
    label: 'Gull 9',
    kind: 'recovery',
    refrigerant: 'R-134a',
    tare: '15 lb 8 oz',
    waterCapacity: '26.2 lb',
    servicePressure: '400 psi',
    testedOn: '2025-05-01',
    testYears: '5',
    condition: 'clean',
    contents: '',
  }
  const read = (over: Record<string, string> = {}, units = US_UNITS) =>
    cylinderFrom({ ...fields, ...over }, { units }, '2026-06-01', 0)
  const errors = async (over: Record<string, string>) => (await read(over)).refused?.errors ?? {}

  it('reads the stamps of the collar', async () => {
    const { data, ...rest } = await read({ flammableOk: 'on', contents: '2 lb' })
    expect(data).toMatchObject({
      label: 'Gull 9',
      tareMg: 7_030_682,
      waterCapacityMg: 11_884_120,
      servicePressurePa: 2_859_228,
      flammableOk: true,
      ownerCustomerId: null,
    })
    expect(rest).toMatchObject({ contentsMg: 907_185 })
    expect(rest.refused).toBeUndefined()
  })
  it('questions a round water capacity until the stamp was read', async () => {
    expect((await errors({ waterCapacity: '30 lb' })).waterCapacity).toContain('is it the size in its name?')
    expect((await errors({ waterCapacity: '50' })).waterCapacity).toContain('is it the size in its name?')
    expect(await errors({ waterCapacity: '30 lb', stampChecked: 'on' })).toEqual({})
    expect((await read({ waterCapacity: '20' }, METRIC_UNITS)).refused?.errors.waterCapacity).toContain(
      'round figure',
    )
  })
  it('questions a tare that no such cylinder has, and what is past its limit, until it is said to be so', async () => {
    expect((await errors({ tare: '155 lb' })).tare).toContain('look at the point')
    expect(await errors({ tare: '155 lb', stampChecked: 'on' })).toEqual({})
    // 26.2 lb of water take 80 % of R-134a: some 24 lb. Filled to the brim with cold liquid 35 lb.
    expect((await errors({ contents: '28 lb' })).contents).toContain('past its limit')
    expect((await errors({ gross: '43 lb' })).gross).toContain('past its limit')
    expect(await errors({ contents: '28 lb', contentsChecked: 'on' })).toEqual({})
    expect((await errors({ contents: '280 lb', contentsChecked: 'on' })).contents).toContain('to the brim')
  })
  it('refuses what cannot be', async () => {
    expect(await errors({ label: '', tare: '', testYears: '0' })).toMatchObject({
      label: expect.stringContaining('a label') as string,
      tare: expect.stringContaining('tare') as string,
      testYears: expect.stringContaining('years') as string,
    })
    expect((await errors({ tare: '0 lb' })).tare).toContain('more than nothing')
    expect((await errors({ contents: '2 lb', refrigerant: '' })).refrigerant).toBe('Choose what it holds.')
    expect((await errors({ contents: '-2 lb' })).contents).toContain('less than nothing')
    expect((await errors({ fillingRatio: '7' })).fillingRatio).toContain('filling ratio')
  })
  it('may leave open what nobody knows yet', async () => {
    const { data } = await read({ waterCapacity: '', servicePressure: '', testedOn: '', refrigerant: '' })
    expect(data).toMatchObject({
      waterCapacityMg: null,
      servicePressurePa: null,
      testedOn: null,
      refrigerant: null,
    })
  })
})
