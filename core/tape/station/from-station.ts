import type { ProgrammeStep, StationReadings, StationReport } from '../../programme'
import { MG_PER_KG } from '../../units'
import type { Programme } from '../chapters/programme'
import type { EntryBodies, EntryKind } from '../envelope/entry'
import { levelHere } from '../mass/level'
import type { JobState } from '../envelope/state'

/** What an entry will say. */
export type Saying = { [K in EntryKind]: { kind: K; body: EntryBodies[K] } }[EntryKind]

/** What has to be known of a station to write down what it says. */
export interface StationFacts {
  kitId: string
  label: string
  tankId: string
  /** Its tank by tare and books, mg: what its scale should show. */
  bookedMg?: number
  divisionMg?: number
  accuracyMg?: number
  /** Of the place, absolute Pa. */
  atmospherePa: number
  /** An id that is the same for the same name in this programme. */
  idFor: (name: string) => string
}

/**
 * What a station's report is on the tape: the step itself, and the weights, pressures, gas and oil as a hand would have
 * noted them, so that books, verdicts and papers know of no station. The report's count makes the ids: the same report
 * says the same, however often it comes.
 */
export function fromStation(
  report: StationReport,
  programme: Pick<Programme, 'programmeId' | 'steps'>,
  state: JobState,
  station: StationFacts,
): Saying[] {
  const { programmeId } = programme
  const { kind, step, readings = {} } = report
  if (kind === 'asks' && report.ask)
    return [
      // A hold is over when it is looked at.
      ...(report.ask === 'look-at-hold' ? closing(readings, state, station) : []),
      {
        kind: 'hand-asked',
        body: {
          programmeId,
          askId: station.idFor(`ask ${report.nr}`),
          ask: report.ask,
          ...(step && { step }),
        },
      },
    ]
  if (kind === 'ended')
    return [
      ...(report.why === 'not-the-gas' ? [gasTest(readings, false)] : []),
      ...closing(readings, state, station),
      {
        kind: 'programme-ended',
        body: {
          programmeId,
          how: report.how ?? 'stopped',
          ...(report.why && { why: report.why }),
          ...(step && { step }),
        },
      },
    ]
  if (!step) return []
  const at: At = { readings, programme, state, station }
  return kind === 'began'
    ? [{ kind: 'programme-step', body: { programmeId, step, phase: 'began' } }, ...(BEGAN[step]?.(at) ?? [])]
    : [...(DONE[step]?.(at) ?? []), { kind: 'programme-step', body: { programmeId, step, phase: 'done' } }]
}

interface At {
  readings: StationReadings
  programme: Pick<Programme, 'programmeId' | 'steps'>
  state: JobState
  station: StationFacts
}

const mg = (kg: number) => Math.round(kg * MG_PER_KG)

function started(use: 'recover' | 'charge', { readings: { weightKg }, station }: At): Saying[] {
  if (weightKg === undefined) return []
  const { tankId, label, kitId, divisionMg, accuracyMg, bookedMg, idFor } = station
  return [
    {
      kind: 'run-started',
      body: {
        runId: idFor(use),
        use,
        cylinderId: tankId,
        scale: label,
        scaleId: kitId,
        mode: 'gross',
        weightMg: mg(weightKg),
        ...(divisionMg !== undefined && { divisionMg }),
        ...(accuracyMg !== undefined && { accuracyMg }),
        ...(bookedMg !== undefined && { bookedMg }),
        // What its hoses hold is drawn in, or back in the tank, before it is weighed for the last time.
        ...(use === 'charge' && { hoseMg: 0 }),
      },
    },
  ]
}

const BEGAN: Partial<Record<ProgrammeStep, (at: At) => Saying[]>> = {
  recover: (at) => started('recover', at),
  charge: (at) => started('charge', at),
  // The engine draws the hoses empty: what was let out is in it. Before it is read, or the readings were of another charge.
  after: (at) => closing(at.readings, at.state, at.station),
  hold: ({ station, readings: { vacuumPa } }) =>
    vacuumPa === undefined
      ? []
      : [{ kind: 'hold-started', body: { holdId: station.idFor('hold'), pressurePa: vacuumPa } }],
}

/** A vehicle comes down to its own level. */
function levelOf({ state }: At): { levelPa?: number } {
  const level = levelHere(state, { chargeKg: null, trade: 'vehicle' })
  return level ? { levelPa: level.levelPa } : {}
}

const DONE: Partial<Record<ProgrammeStep, (at: At) => Saying[]>> = {
  identify: ({ readings }) => [gasTest(readings, true)],
  before: ran,
  after: ran,
  recover: (at) => [
    ...closing(at.readings, at.state, at.station),
    ...lowRead(at),
    { kind: 'step-done', body: { step: 'self-purged' } },
    { kind: 'recovery-ended', body: { how: 'emptied', ...levelOf(at) } },
  ],
  'oil-out': ({ readings: { drainMl = 0 }, station: { label } }) =>
    drainMl > 0 ? [{ kind: 'oil-noted', body: { direction: 'out', volumeMl: drainMl, text: label } }] : [],
  vacuum: ({ readings: { vacuumPa } }) =>
    vacuumPa === undefined ? [] : [{ kind: 'vacuum-noted', body: { pressurePa: vacuumPa } }],
  hold: (at) => closing(at.readings, at.state, at.station),
  'oil-in': ({ readings: { oilMl = 0 }, programme, station: { label } }) => {
    const bottleId = programme.steps.find((each) => each.step === 'oil-in')?.bottleId
    return oilMl > 0
      ? [
          {
            kind: 'oil-noted',
            body: { direction: 'in', volumeMl: oilMl, text: label, ...(bottleId && { bottleId }) },
          },
        ]
      : []
  },
  dye: ({ readings: { dyeMl = 0 }, programme, station: { label } }) => {
    const bottleId = programme.steps.find((each) => each.step === 'dye')?.bottleId
    return dyeMl > 0
      ? [{ kind: 'dye-noted', body: { volumeMl: dyeMl, text: label, ...(bottleId && { bottleId }) } }]
      : []
  },
  charge: ({ readings: { weightKg }, station: { idFor } }) =>
    weightKg === undefined
      ? []
      : [{ kind: 'weight-noted', body: { runId: idFor('charge'), weightMg: mg(weightKg) } }],
  clear: (at) => [...closing(at.readings, at.state, at.station), ...cameBack(at)],
}

/** As little as two readings of a station's scale may differ by, mg. */
const CAME_BACK_MG = 10_000

/** What the hoses still held came back into the tank after the charge was weighed: its last weight is put right. */
function cameBack({ readings: { weightKg }, state, station: { idFor } }: At): Saying[] {
  const charge = state.transfers.find((each) => each.transferId === idFor('charge'))
  const last = charge?.weighings.at(-1)
  if (!charge || charge.endedAt === undefined || !last || weightKg === undefined) return []
  const weightMg = mg(weightKg)
  if (weightMg - last.weightMg < CAME_BACK_MG) return []
  return [
    {
      kind: 'correction',
      body: {
        entryId: last.entryId,
        kind: 'run-ended',
        version: 2,
        body: { runId: charge.transferId, weightMg },
        reason: 'Came back out of the hoses when they were cleared',
      },
    },
  ]
}

const gasTest = ({ gas, purityPct }: StationReadings, passed: boolean): Saying => ({
  kind: 'gas-tested',
  body: {
    test: 'identifier',
    passed,
    ...(gas && { found: gas }),
    ...(purityPct !== undefined && { purityPct }),
  },
})

function lowRead({ readings: { lowPa }, station: { atmospherePa } }: At): Saying[] {
  return lowPa === undefined ? [] : [pressure('low', lowPa, atmospherePa)]
}

const pressure = (point: 'low' | 'high', gaugePa: number, atmospherePa: number): Saying => ({
  kind: 'pressure-noted',
  body: { point, pressurePa: Math.max(0, gaugePa + atmospherePa), atmospherePa },
})

/** The engine ran, and this was read. */
function ran({ readings, station: { atmospherePa } }: At): Saying[] {
  const { ranS, lowPa, highPa, ambientK, ventK } = readings
  return [
    { kind: 'system-running', body: { service: 'vehicle', beforeS: ranS ?? 0 } },
    ...(lowPa === undefined ? [] : [pressure('low', lowPa, atmospherePa)]),
    ...(highPa === undefined ? [] : [pressure('high', highPa, atmospherePa)]),
    ...temperature('ambient', ambientK),
    ...temperature('vent', ventK),
  ]
}

const temperature = (point: 'ambient' | 'vent', tempK: number | undefined): Saying[] =>
  tempK === undefined ? [] : [{ kind: 'temperature-noted', body: { point, tempK } }]

/** What of this programme still runs on the tape ends with what was read last: the books are true wherever it stops. */
function closing(
  { weightKg, vacuumPa, curve }: StationReadings,
  { transfers, holds }: JobState,
  { idFor }: StationFacts,
): Saying[] {
  const own = [idFor('recover'), idFor('charge')]
  const open = transfers.find((each) => each.endedAt === undefined && own.includes(each.transferId))
  const hold = holds.find((each) => each.endedAt === undefined && each.holdId === idFor('hold'))
  const lastPa = curve?.at(-1)?.[1] ?? vacuumPa
  return [
    ...(open && weightKg !== undefined
      ? [{ kind: 'run-ended' as const, body: { runId: open.transferId, weightMg: mg(weightKg) } }]
      : []),
    ...(hold && curve && curve.length > 1
      ? [{ kind: 'hold-curve' as const, body: { holdId: hold.holdId, readings: curve } }]
      : []),
    ...(hold && lastPa !== undefined
      ? [{ kind: 'hold-ended' as const, body: { holdId: hold.holdId, pressurePa: lastPa } }]
      : []),
  ]
}
