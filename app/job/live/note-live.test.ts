import { describe, expect, it } from 'vitest'
import type { Channel } from '#core/samples'
import { type Entry, foldTape } from '#core/tape'
import { METRIC_UNITS } from '#core/units'
import { wrote } from '../../../testing/an-entry'
import { asNoted } from '~/samples/in-units'
import { noteOf } from './note-live'

const units = { units: METRIC_UNITS, atmospherePa: 95_000 }
const reading = (
  channel: Channel,
  value: number,
  state: 'live' | 'silent' | 'nonsense' = 'live',
  kitId = 'k',
) => ({
  at: 1,
  value,
  seq: 7,
  state,
  source: { deviceId: 'd', channel, kitId, kit: 'Scale 2', own: true, inUse: true },
})
const on = (...entries: Entry[]) => ({ state: foldTape(entries) })
const run = wrote('run-started', {
  runId: 'r',
  use: 'recover',
  cylinderId: 'c',
  scale: 'Scale 2',
  scaleId: 'k',
  mode: 'gross',
  weightMg: 12e6,
})

describe('a live value as the tape writes it', () => {
  it.each<[Channel, number, unknown]>([
    ['weight', 12.105, { kind: 'weight', value: 12_105_000 }],
    // A gauge says 2 bar where the air around has 0.95.
    ['low', 200_000, { kind: 'pressure', value: 295_000 }],
    ['high', -200_000, { kind: 'pressure', value: 0 }],
    ['vacuum', 66.6612, { kind: 'vacuum', value: 66.66 }],
    ['suction', 283.149999, { kind: 'temperature', value: 283.15 }],
    ['purity', 0.99, undefined],
    ['detector', 3, undefined],
  ])('%s %s', (channel, value, noted) => {
    expect(asNoted(channel, value, units)).toEqual(noted)
  })
})

describe('note this', () => {
  it('a weight goes to the transfer that stands on this scale, and to no other', () => {
    expect(noteOf(reading('weight', 13), on(), units)).toBeUndefined()
    expect(noteOf(reading('weight', 13), on(run), units)).toMatchObject({
      kind: 'weight-noted',
      body: { runId: 'r', weightMg: 13_000_000, on: run.entryId },
      sample: { deviceId: 'd', channel: 'weight', seq: 7 },
    })
    expect(noteOf(reading('weight', 13, 'live', 'another'), on(run), units)).toBeUndefined()
  })
  it('pressures keep the air of the place; a vacuum belongs to the hold that runs', () => {
    expect(noteOf(reading('low', 200_000), on(), units)).toMatchObject({
      kind: 'pressure-noted',
      body: { point: 'low', pressurePa: 295_000, atmospherePa: 95_000 },
    })
    const hold = wrote('hold-started', { holdId: 'h', pressurePa: 60 })
    expect(noteOf(reading('vacuum', 80), on(hold), units)).toMatchObject({
      body: { pressurePa: 80, holdId: 'h' },
    })
    expect(noteOf(reading('ambient', 290), on(), units)).toMatchObject({
      body: { point: 'ambient', tempK: 290 },
    })
  })
  it('nonsense is not noted', () => {
    expect(noteOf(reading('weight', 13, 'nonsense'), on(run), units)).toBeUndefined()
  })
})
