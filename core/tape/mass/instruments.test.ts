// What a job uses, and what that does to its verdicts.
import { describe, expect, it } from 'vitest'
import { wrote } from '../../../testing/an-entry'
import type { KitFacts, KitKind } from '../../kit'
import { foldTape, gaugeAt, judgeChecks, judgeRecovery, kitInUse, notices } from '..'

const MIN = 60_000
const uses = (kitId: string, kind: KitKind, facts: KitFacts = {}, at = 0) =>
  wrote('kit-used', { kitId, kind, label: kitId, facts }, at)
const context = {
  books: null,
  plate: { massMg: 3_000_000, sigmaMg: 10_000 },
  trade: 'stationary',
  metering: 'valve',
  plateSubcoolingK: null,
} as const

describe('the kit of a job', () => {
  it('is one gauge and one machine at a time, and any number of hoses', () => {
    const state = foldTape([
      uses('gauges A', 'gauge', {}, 1),
      uses('hoses 1', 'hoses', {}, 2),
      uses('machine', 'machine', {}, 3),
      uses('gauges B', 'gauge', {}, 4),
      uses('hoses 2', 'hoses', {}, 5),
      uses('station', 'station', {}, 6),
      wrote('kit-set-aside', { kitId: 'hoses 1' }, 7),
    ])
    expect(kitInUse(state).map((each) => each.label)).toEqual(['gauges B', 'hoses 2', 'station'])
  })
  it('is what it was when something was read', () => {
    const state = foldTape([
      uses('gauges A', 'gauge', { fullScalePa: 50e5, classPct: 1 }, 10 * MIN),
      uses('gauges B', 'gauge', { fullScalePa: 30e5, classPct: 2 }, 20 * MIN),
    ])
    // Before any was named: an ordinary one. 1 % of 50 bar; 2 % of 30 bar.
    expect(gaugeAt(state, 5 * MIN)).toEqual({ value: 20_000, known: false, label: '' })
    expect(gaugeAt(state, 15 * MIN)).toEqual({ value: 50_000, known: true, label: 'gauges A' })
    expect(gaugeAt(state, 25 * MIN)).toEqual({ value: 60_000, known: true, label: 'gauges B' })
  })
})

describe('a named instrument', () => {
  // R-410A at 20 °C: 14.45 bar absolute; 0.6 bar above it.
  const cylinder = (facts: KitFacts | null) =>
    foldTape([
      wrote('job-described', { refrigerant: 'R-410A' }, 0),
      ...(facts ? [uses('gauges', 'gauge', facts, 1)] : []),
      wrote('pressure-noted', { point: 'cylinder', pressurePa: 15.05e5 }, MIN),
      wrote('temperature-noted', { point: 'cylinder', tempK: 293.15 }, 2 * MIN),
    ])
  it('says what may be told from its readings', () => {
    // Clamp 1 K: 0.41 bar. Ordinary gauge 0.2: sigma 0.26 bar, 0.6 is beyond two of it. 1 % of 50 bar: 0.37, it is not.
    expect(notices(cylinder(null), null).map((each) => each.code)).toEqual(['cylinder-above'])
    expect(notices(cylinder({ fullScalePa: 50e5, classPct: 1 }), null)).toEqual([])
  })
  it('names which of gauge and clamp leaves more doubt, and judges by it', () => {
    const run = (gauge: KitFacts, clamp: KitFacts) => {
      const state = foldTape([
        wrote('job-described', { refrigerant: 'R-134a' }, 0),
        uses('gauges', 'gauge', gauge, 1),
        uses('clamp', 'thermometer', clamp, 2),
        // R-134a at 9 bar absolute boils at 35.5 °C: 3 K of subcooling, where 4.5 to 7 are usual.
        wrote('pressure-noted', { point: 'high', pressurePa: 9e5 }, MIN),
        wrote('temperature-noted', { point: 'liquid', tempK: 273.15 + 32.5 }, 2 * MIN),
      ])
      return judgeChecks(state, context)
    }
    // 0.1 bar is 0.4 K, the clamp 0.2 K: two standard deviations are 0.5 K. 3 K is short.
    const sharp = run({ fullScalePa: 20e5, classPct: 0.5 }, { accuracyK: 0.2 })
    expect(sharp).toMatchObject({ code: 'subcooling-low', limitedBy: { what: 'gauge', label: 'gauges' } })
    // A clamp of 2 K: two standard deviations are 2.4 K. 3 K may be 4.5.
    const blunt = run({ fullScalePa: 20e5, classPct: 0.5 }, { accuracyK: 2 })
    expect(blunt).toMatchObject({ code: 'readings-fit', limitedBy: { what: 'clamp', label: 'clamp' } })
  })
})

describe('what a machine that was not purged keeps', () => {
  const recovered = (keptMg: number | null) =>
    foldTape([
      wrote('job-described', { refrigerant: 'R-410A', systemId: 's' }, 0),
      uses('machine', 'machine', {}, 1),
      wrote(
        'run-started',
        { runId: 'r', use: 'recover', cylinderId: 'c', scale: 'S', mode: 'gross', weightMg: 10_000_000 },
        MIN,
      ),
      wrote('run-ended', { runId: 'r', weightMg: 12_650_000 }, 30 * MIN),
      ...(keptMg === null ? [] : [wrote('rig-kept', { kitId: 'machine', massMg: keptMg }, 31 * MIN)]),
      wrote('recovery-ended', { how: 'emptied' }, 32 * MIN),
    ])
  it('came out as well: known to about half of it, it widens what the verdict may say', () => {
    // 3.000 kg expected; 30 g and 1 % may be left behind. 2.650 kg is short; with 300 g in the machine it is not.
    expect(judgeRecovery(recovered(null), context)?.code).toBe('less-than-expected')
    const verdict = judgeRecovery(recovered(300_000), context)!
    expect(verdict.numbers.find((each) => each.name === 'recovered')).toMatchObject({ value: 2.95 })
    expect(verdict.code).not.toBe('less-than-expected')
  })
})
