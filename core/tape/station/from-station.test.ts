import { describe, expect, it } from 'vitest'
import { anEntry } from '../../../testing/an-entry'
import type { StationReport } from '../../programme'
import { clocksOf, type Entry, foldTape, fromStation, nextStep, type Saying } from '..'

const STATION = {
  kitId: '00000000-0000-4000-8000-0000000000a1',
  label: 'Station 1',
  tankId: '00000000-0000-4000-8000-0000000000a2',
  bookedMg: 20_400_000,
  divisionMg: 5_000,
  atmospherePa: 95_000,
  idFor: (name: string) => `id of ${name}`,
}
const PROGRAMME = { programmeId: 'p', steps: [{ step: 'oil-in' as const, bottleId: 'bottle' }] }

/** A tape on which a station says one thing after the other. */
function aStation() {
  const entries: Entry[] = [anEntry('job-described', { refrigerant: 'R-134a' })]
  let nr = 0
  const says = (report: Partial<StationReport>): Saying[] => {
    const said = fromStation(
      { nr: ++nr, at: 0, kind: 'began', ...report },
      PROGRAMME,
      foldTape(entries),
      STATION,
    )
    for (const { kind, body } of said) entries.push(anEntry(kind, body as never))
    return said
  }
  return { says, state: () => foldTape(entries) }
}
const kinds = (said: Saying[]) => said.map((each) => each.kind)

describe('what a station says is noted as a hand would', () => {
  it('a recovery is a transfer on its own scale into its own tank, by tare and books', () => {
    const { says, state } = aStation()
    const [, started] = says({ step: 'recover', readings: { weightKg: 20.4 } })
    expect(started!.body).toEqual({
      runId: 'id of recover',
      use: 'recover',
      cylinderId: STATION.tankId,
      scale: 'Station 1',
      scaleId: STATION.kitId,
      mode: 'gross',
      weightMg: 20_400_000,
      divisionMg: 5_000,
      bookedMg: 20_400_000,
    })
    const said = says({ kind: 'done', step: 'recover', readings: { weightKg: 20.81, lowPa: -13_600 } })
    expect(kinds(said)).toEqual([
      'run-ended',
      'pressure-noted',
      'step-done',
      'recovery-ended',
      'programme-step',
    ])
    // A gauge says what is above the air of the place: 95 000 less 13 600.
    expect(said[1]!.body).toMatchObject({ pressurePa: 81_400, atmospherePa: 95_000 })
    expect(state().recoveredMg).toBe(410_000)
  })
  it('wherever it stops, what runs ends with what was read last', () => {
    const { says, state } = aStation()
    says({ step: 'recover', readings: { weightKg: 20.4 } })
    expect(
      kinds(says({ kind: 'ended', how: 'stopped', why: 'power-lost', readings: { weightKg: 20.6 } })),
    ).toEqual(['run-ended', 'programme-ended'])
    expect(state().recoveredMg).toBe(200_000)
  })
  it('without a weight nothing is ended: nobody knows it', () => {
    const { says, state } = aStation()
    says({ step: 'recover', readings: { weightKg: 20.4 } })
    says({ kind: 'ended', how: 'stopped', readings: {} })
    expect(state().transfers[0]!.endedAt).toBeUndefined()
  })
  it('a charge ends before the engine runs, and what the hoses give back is put right afterwards', () => {
    const { says, state } = aStation()
    says({ step: 'charge', readings: { weightKg: 20.4 } })
    says({ kind: 'done', step: 'charge', readings: { weightKg: 19.82 } })
    says({ step: 'after', readings: { weightKg: 19.82 } })
    expect(state().transfers[0]).toMatchObject({ amountMg: 580_000, endedAt: expect.any(Number) as number })
    expect(kinds(says({ kind: 'done', step: 'clear', readings: { weightKg: 19.85 } }))).toEqual([
      'correction',
      'programme-step',
    ])
    expect(state().transfers[0]!.amountMg).toBe(550_000)
    // Within what two readings differ by nothing came back.
    const other = aStation()
    other.says({ step: 'charge', readings: { weightKg: 20.4 } })
    other.says({ step: 'after', readings: { weightKg: 19.82 } })
    expect(kinds(other.says({ kind: 'done', step: 'clear', readings: { weightKg: 19.825 } }))).toEqual([
      'programme-step',
    ])
  })
  it('a hold ends when it is looked at, with its curve', () => {
    const { says, state } = aStation()
    says({ step: 'hold', readings: { vacuumPa: 180 } })
    says({
      kind: 'asks',
      ask: 'look-at-hold',
      step: 'hold',
      readings: {
        vacuumPa: 900,
        curve: [
          [0, 180],
          [300, 700],
          [600, 900],
        ],
      },
    })
    expect(state().holds[0]).toMatchObject({
      curve: [
        [0, 180],
        [300, 700],
        [600, 900],
      ].map(([atS, pressurePa]) => ({ atS, pressurePa })),
    })
    expect(state().holds[0]!.endedAt).toBeDefined()
    expect(state().programmes[0]!.asks).toMatchObject({ ask: 'look-at-hold' })
  })
  it('oil comes from the bottle that was named; none of it is not noted', () => {
    const { says, state } = aStation()
    says({ kind: 'done', step: 'oil-out', readings: { drainMl: 14 } })
    expect(says({ kind: 'done', step: 'oil-in', readings: { oilMl: 14 } })[0]!.body).toMatchObject({
      direction: 'in',
      volumeMl: 14,
      bottleId: 'bottle',
    })
    expect(kinds(says({ kind: 'done', step: 'oil-out', readings: { drainMl: 0 } }))).toEqual([
      'programme-step',
    ])
    expect(state().oil).toMatchObject({ outMl: 14, inMl: 14 })
  })
  it('a gas that is none is known as foul, also where it stopped for it', () => {
    const { says, state } = aStation()
    says({ kind: 'ended', how: 'stopped', why: 'not-the-gas', readings: { gas: 'R-1234yf', purityPct: 97 } })
    expect(state().gasTests).toMatchObject([{ passed: false, found: 'R-1234yf', purityPct: 97 }])
  })
})

describe('while a station is at it', () => {
  it('its hold is due for nobody: it reads its own gauge, and asks; by hand it is due after its time', () => {
    const begun = anEntry('programme-begun', { programmeId: 'p', kitId: 'k', deviceId: 'd', steps: [] })
    const hold = anEntry('hold-started', { holdId: 'h', pressurePa: 60 })
    expect(clocksOf(foldTape([begun, hold]), null)).toMatchObject([{ what: 'hold', dueAt: null }])
    // Ten minutes by common practice.
    expect(clocksOf(foldTape([hold]), null)).toMatchObject([{ what: 'hold', dueAt: hold.at + 600_000 }])
  })
  it('the next step is the station’s, or the hand that it asks for', () => {
    const { says, state } = aStation()
    says({ step: 'recover', readings: { weightKg: 20.4 } })
    expect(nextStep(state())).toBe('programme-runs')
    says({ kind: 'asks', ask: 'hoses-on' })
    expect(nextStep(state())).toBe('give-a-hand')
  })
})

describe('the order in which a programme is heard of does not matter', () => {
  const begun = anEntry('programme-begun', {
    programmeId: 'p',
    kitId: 'k',
    deviceId: 'd',
    steps: [{ step: 'clear' }],
  })
  const asked = anEntry('hand-asked', { programmeId: 'p', askId: 'a', ask: 'hoses-off' })
  const given = anEntry('hand-given', { programmeId: 'p', askId: 'a', answer: 'done' })
  const ended = anEntry('programme-ended', { programmeId: 'p', how: 'finished' })
  it.each([
    [begun, asked, given, ended],
    [asked, begun, given, ended],
    [given, asked, begun, ended],
    [ended, given, begun, asked],
  ])('whatever comes first', (...order) => {
    const tape = order.map((entry, i) => ({ ...entry, at: 1_000 + i, deviceId: `d${i}` }))
    expect(foldTape(tape).programmes).toMatchObject([
      { kitId: 'k', steps: [{ step: 'clear' }], ended: { how: 'finished' } },
    ])
    expect(foldTape(tape).programmes[0]!.asks).toBeUndefined()
  })
  it('left alone stays left alone, whatever the station says later', () => {
    const left = anEntry('programme-ended', { programmeId: 'p', how: 'left-alone' })
    expect(
      foldTape([begun, left, { ...ended, at: left.at + 5, deviceId: 'station' }]).programmes[0]!.ended!.how,
    ).toBe('left-alone')
  })
})
