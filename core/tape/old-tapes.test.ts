// Tapes as they were written, kept for good: a later version of the fold must read them and come to the same.
import { describe, expect, it } from 'vitest'
import { bookings, type Entry, foldTape, KINDS, upcast, versionOf } from '.'
import firstVersion from './old-tapes/v1.json' with { type: 'json' }
import charged from './old-tapes/charged.json' with { type: 'json' }
import kit from './old-tapes/kit.json' with { type: 'json' }
import roof from './old-tapes/roof.json' with { type: 'json' }
import station from './old-tapes/station.json' with { type: 'json' }
import tight from './old-tapes/tight.json' with { type: 'json' }
import watched from './old-tapes/watched.json' with { type: 'json' }
import watches from './old-tapes/watches.json' with { type: 'json' }

describe('the old tapes', () => {
  it('have every kind of entry between them', () => {
    const kinds = [
      ...firstVersion,
      ...watches,
      ...kit,
      ...watched,
      ...tight,
      ...charged,
      ...station,
      ...roof,
    ].map((entry) => entry.kind)
    expect([...new Set(kinds)].sort()).toEqual(Object.keys(KINDS).sort())
  })
})

describe('a tape with the first watches', () => {
  it('folds as it did', () => {
    expect(foldTape(watches as unknown as Entry[])).toMatchObject({
      watches: [{ what: 'pull', startedAt: 1790000000000, endedAt: 1790000600000 }],
      pressureNotes: [{ point: 'test', value: 1_101_325 }],
      plate: { massMg: 1_530_874, text: '3.6 lb' },
      flags: [],
    })
  })
})

describe('a tape with the first plan, tests and alarms', () => {
  it('folds as it did', () => {
    expect(foldTape(watched as unknown as Entry[])).toMatchObject({
      plan: { method: 'vapour-only', port: 'vapour', hose: '3/8', coresOut: true, level: 'appliance' },
      skipped: [{ step: 'rig-drier', reason: 'new one tomorrow', at: 1790000001000 }],
      gasTests: [{ test: 'identifier', passed: true, found: 'R-134a', purityPct: 99.4 }],
      acknowledged: { 'limit-near:00000000-0000-4000-8000-0000000000c1': 1790000003000 },
      flags: [],
    })
  })
})

describe('a tape with the first repair, pressure test and vacuum plan', () => {
  it('folds as it did', () => {
    const state = foldTape(tight as unknown as Entry[])
    expect(state).toMatchObject({
      parts: [{ part: 'drier', number: 'HB-163', oilMl: 45, chargeMg: 120_000 }],
      oil: { partsMl: 45, noted: true },
      takenOff: [
        { what: 'side panel', backAt: 1790005700000 },
        { what: 'sensor clip', leftOff: 'clip broke, on order' },
      ],
      photos: [{ of: 'before', text: 'old drier', hidden: 'a face is on it' }],
      pressureTests: [{ part: 'whole', end: { pressurePa: 2_417_325 } }],
      searched: [{ place: 'Valve cores and caps', how: 'bubbles', found: true }],
      recheck: { on: '2026-12-24' },
      vacuumPlan: { method: 'triple', hose: '3/8', targetPa: 66.66 },
      kitProofs: [{ reachedPa: 20, heldPa: 24 }],
      nitrogenBreaks: [{ pressurePa: 111_325 }],
      flags: [],
    })
    // 25 bar abs from 25 to 15 C: 24.17 is what temperature alone makes of it, and it held.
    expect(state.leakChecks.map(({ method, found }) => [method, found])).toEqual([
      ['nitrogen', false],
      ['bubbles', true],
    ])
    expect(state.holds[0]!.curve).toHaveLength(3)
  })
})

describe('a tape with the first kit', () => {
  it('folds and books as it did', () => {
    const state = foldTape(kit as unknown as Entry[])
    expect(state).toMatchObject({
      kit: [{ label: 'Machine 1', since: 1790000000000, until: 1790000040000 }],
      transfers: [
        {
          segments: [
            { scale: 'Scale 2', scaleId: null, accuracyMg: null },
            { scale: 'Scale 3', scaleId: '00000000-0000-4000-8000-0000000000b2', accuracyMg: 10_000 },
          ],
          amountMg: 1_000_000,
        },
      ],
      rigKept: [{ massMg: 120_000 }],
    })
    expect(bookings(state).map((b) => [b.key.split(':')[0], b.from.kind, b.to.id, b.massMg])).toEqual([
      ['kept', 'outside', '00000000-0000-4000-8000-0000000000b1', 120_000],
    ])
  })
})

describe('a tape with the first programme of a station', () => {
  it('folds as it did', () => {
    expect(foldTape(station as unknown as Entry[])).toMatchObject({
      retrofitPlanned: true,
      programmes: [
        {
          begunAt: 1790200020000,
          preset: 'Buses',
          course: [
            { step: 'recover', beganAt: 1790200050000, doneAt: 1790200060000 },
            { step: 'hold', beganAt: 1790200070000 },
          ],
          ended: { at: 1790200080000, how: 'stopped', why: 'pressure-lost', step: 'hold' },
        },
      ],
      flags: [],
    })
  })
})

describe('a tape with the first findings against what was done without signal', () => {
  it('folds as it did', () => {
    expect(foldTape(roof as unknown as Entry[])).toMatchObject({
      recoveredMg: 2_000_000,
      against: [
        { codes: ['used-meanwhile', 'too-small'], jobs: [12], settled: { text: 'Job 12 had Gull 5' } },
        { codes: ['full'] },
      ],
      flags: ['against-the-books'],
    })
  })
  it('says nothing more of a note that was struck', () => {
    const strike = {
      ...(roof[0] as unknown as Entry),
      entryId: '00000000-0000-4000-8000-000000000799',
      kind: 'correction',
      at: 1790320000000,
      deviceSeq: 9,
      body: { entryId: roof[1]!.entryId, kind: 'run-started', body: null, reason: 'It was Gull 5' },
    } as Entry
    const state = foldTape([...(roof as unknown as Entry[]), strike])
    expect(state.against).toEqual([])
    expect(state.flags).not.toContain('against-the-books')
  })
})

describe('a tape of version 1', () => {
  const entries = firstVersion as unknown as Entry[]
  it('is read into the bodies of today, step by step', () => {
    const [ended] = entries.filter((entry) => entry.kind === 'recovery-ended')
    expect(ended!.version).toBe(1)
    expect(upcast('recovery-ended', 1, ended!.body)).toEqual({ how: 'emptied' })
    for (const [kind, { version, upcast: steps }] of Object.entries(KINDS)) {
      expect([kind, steps.length]).toEqual([kind, version - 1])
      expect(versionOf(kind as keyof typeof KINDS)).toBe(version)
    }
  })
  it('folds and books as it did', () => {
    const state = foldTape(entries)
    expect(state).toMatchObject({
      status: 'closed',
      title: 'Old tape',
      recoveredMg: 2_500_000,
      chargedMg: 2_460_000,
      oil: { outMl: 30, partsMl: 10, inMl: 40 },
      flags: [],
    })
    expect(bookings(state).map((b) => [b.key.split(':')[0], b.from.kind, b.to.kind, b.massMg])).toEqual([
      ['before', 'outside', 'system', 2_500_000],
      ['run', 'system', 'cylinder', 2_500_000],
      ['run', 'cylinder', 'system', 2_460_000],
      ['hose', 'cylinder', 'rig', 40_000],
    ])
  })
})

describe('a tape with the first running readings', () => {
  it('folds as it did', () => {
    expect(foldTape(charged as unknown as Entry[])).toMatchObject({
      running: [{ service: 'comfort', since: 1790099110000 }],
      machineStates: [{ state: 'part-load', is: false }],
      temperatureNotes: [{ point: 'air-on', value: 298.15 }],
      standing: [{ pressurePa: 1_701_325, tempK: 298.15 }],
      supply: [{ volts: 228, amps: 9.4 }],
      gasChanges: [{ from: 'R-410A', to: 'R-448A', platePct: 95, at: 1790100100000 }],
      refrigerant: 'R-448A',
      metering: { lowPa: 501_325, nearCompressor: true },
      chargeCorrections: [{ way: 'out', massMg: 40_000, reason: 'overshot' }],
      drive: 'high-voltage',
      drainedMl: 18,
      oilCleared: { how: 'hoses-flushed', who: 'Mara' },
      oil: { inMl: 20, outMl: 0, noted: true },
      dyed: true,
      signature: { name: 'Bea Kelp', at: 1790100190000 },
      oilPut: [
        { volumeMl: 20, oil: 'POE', what: 'oil' },
        { volumeMl: 7.5, oil: null, what: 'dye' },
      ],
      cycles: [{ runS: 840, offS: 360, defrostS: 600, coldestK: 253.15 }],
      flags: [],
    })
  })
})
