import { OutOfRangeError, saturationTempK, tableOf } from '../../refrigerants'
import { STANDARD_ATMOSPHERE_PA } from '../../units'
import { rule, type LimitedBy, quantity, type Verdict } from '../../verdict'
import {
  type CheckResult,
  type Derived,
  type Figure,
  boxAboveK,
  figuresOf,
  judgePattern,
  judgeReadings,
  judgeVent,
  LEAST_TARGET_K,
  lowGaugeIsUsual,
  type Metering,
  orificeTargetSuperheatK,
  type Pattern,
  type PatternCode,
  type PatternReason,
  type ReadingDoubts,
  type ReadingsCode,
  type ReadingsReason,
  relativeHumidity,
  type RunningReadings,
  type Service,
  type ServiceFacts,
  settlesInS,
  superheatAndSubcooling,
  type VentCode,
} from '../../verify'
import {
  baselineReadings,
  checkReadings,
  runningNow,
  statesNow,
  statesSaid,
  workBegan,
} from './check-readings'
import { gasAt } from '../envelope/gas-at'
import { clampAt, gaugeAt } from '../mass/instruments'
import type { Running } from '../chapters/readings'
import type { JobState } from '../envelope/state'

/** What of the system readings are held against. */
export interface CheckedAgainst {
  metering: Metering
  plateSubcoolingK: number | null
}

/** Readings that are not those of a system that runs and has settled. */
export type SettlingCode =
  'readings-not-settled' | 'readings-box-warm' | 'readings-at-rest' | 'suction-above-head'
export type SettlingReason = 'let-it-settle' | 'wait-for-box' | 'start-it' | 'hoses-swapped'
export type ChecksCode = ReadingsCode | PatternCode | SettlingCode | NotCooling
export type ChecksReason = ReadingsReason | PatternReason | SettlingReason | NotCooling
/** Whatever the cause: it does not cool. */
type NotCooling = Extract<VentCode, 'vent-warm'>
export type ChecksVerdict = Verdict<ChecksCode, ChecksReason>

/**
 * Superheat and subcooling of the check readings, each as far as it can be known: above its critical point a gas has
 * no subcooling, and its superheat all the same. `outside` where a pressure lies beyond the refrigerant's table.
 */
export function checkResult(state: JobState): CheckResult & { outside?: boolean } {
  if (!state.refrigerant) return {}
  const table = tableOf(state.refrigerant)
  const { lowPa, suctionK, highPa, liquidK } = checkReadings(state)
  const found: CheckResult & { outside?: boolean } = {}
  for (const half of [
    { lowPa, suctionK },
    { highPa, liquidK },
  ])
    try {
      Object.assign(found, superheatAndSubcooling(half, table))
    } catch (error) {
      if (!(error instanceof OutOfRangeError)) throw error
      found.outside = true
    }
  return found
}

/**
 * What the readings of the running system say: all of them together where enough was read and it was said what the
 * system is for; else superheat and subcooling alone.
 */
export function judgeChecks(state: JobState, context: CheckedAgainst): ChecksVerdict {
  const { doubts, limitedBy } = readingDoubts(state)
  const running = runningNow(state)
  const unsettled = running && unsettledIn(state, running)
  const pattern = unsettled ? undefined : patternOf(state, context)
  // An engine that runs and a compressor that does not: at rest, and a finding.
  const judgeable = !unsettled || unsettled.code === 'readings-at-rest'
  const warm = running && judgeable ? notCooling(state, running, pattern) : undefined
  if (warm) return limitedBy ? { ...warm, limitedBy } : warm
  if (unsettled) return unsettled
  if (pattern) return limitedBy ? { ...pattern.verdict, limitedBy } : pattern.verdict
  const target = orificeTarget(checkReadings(state))
  const verdict = judgeReadings(checkResult(state), context.metering, context.plateSubcoolingK, {
    doubts,
    ...(target !== undefined && { targetSuperheatK: target }),
  })
  return limitedBy && verdict.numbers.length > 0 ? { ...verdict, limitedBy } : verdict
}

/** A vent that is hardly colder than the air that goes in; a pattern that names the cause says more. */
function notCooling(
  state: JobState,
  { service, since }: Running,
  pattern: Pattern | undefined,
): ChecksVerdict | undefined {
  const { ventK, ambientK, at } = checkReadings(state)
  if (service !== 'vehicle' || ventK === undefined || ambientK === undefined || at === undefined)
    return undefined
  if (settlesInS(service, (at - since) / 1000) > 0) return undefined
  const { dropK, verdict } = judgeVent(ventK, ambientK)
  if (verdict.code !== 'vent-warm' || (pattern && pattern.verdict.outcome !== 'open')) return undefined
  const drop = quantity('vent-drop', dropK, 'K', (Math.SQRT2 * clampAt(state, at).value) / Math.sqrt(3))
  const numbers = pattern?.verdict.numbers ?? [drop]
  return {
    ...verdict,
    code: 'vent-warm',
    reasons: [{ code: 'vent-warm', numbers: [drop] }, ...(pattern?.verdict.reasons ?? [])],
    numbers,
  }
}

/** Why the readings are not yet those of a running system that has settled. */
function unsettledIn(state: JobState, running: Running): ChecksVerdict | undefined {
  const { at, lowPa, highPa, airOnK } = checkReadings(state)
  if (at === undefined) return undefined
  const verdict = (
    code: SettlingCode,
    reason: SettlingReason,
    numbers: Verdict['numbers'] = [],
  ): ChecksVerdict => ({
    outcome: code === 'suction-above-head' ? 'caution' : 'open',
    code,
    reasons: [{ code: reason }],
    numbers,
    rule: rule('settled-first'),
  })
  if (lowPa !== undefined && highPa !== undefined) {
    const tellsPa = 2 * gaugeAt(state, at).value
    if (lowPa - highPa > tellsPa) return verdict('suction-above-head', 'hoses-swapped')
    if (highPa - lowPa <= tellsPa) return verdict('readings-at-rest', 'start-it')
  }
  const leftS = settlesInS(running.service, (at - running.since) / 1000)
  if (leftS > 0)
    return verdict('readings-not-settled', 'let-it-settle', [quantity('known-after', leftS, 's')])
  const aboveK = airOnK === undefined ? 0 : boxAboveK(running.service, airOnK)
  return aboveK > 0
    ? verdict('readings-box-warm', 'wait-for-box', [quantity('box-above', aboveK, 'K')])
    : undefined
}

/** All readings together; undefined: nobody has said that it runs and what for, or too little was read. */
export function patternOf(state: JobState, context: CheckedAgainst): Pattern | undefined {
  const running = runningNow(state)
  const standing = standingOf(state)
  const readings = { ...checkReadings(state), ...(standing && { standing }) }
  return running && judged(state, readings, running.service, context, statesNow(state))
}

/** The same for what was read before the work. */
export function baselineOf(state: JobState, context: CheckedAgainst): Pattern | undefined {
  const began = state.running[0]
  if (!began) return undefined
  const states = statesSaid(state, { fromOrder: began.order, toOrder: workBegan(state) })
  return judged(state, baselineReadings(state), began.service, context, states)
}

function judged(
  state: JobState,
  readings: ReturnType<typeof checkReadings>,
  service: Service,
  against: CheckedAgainst,
  states: ServiceFacts['states'],
): Pattern | undefined {
  if (readings.at === undefined) return undefined
  const gas = gasAt(state, readings.at)
  return judgePattern(figuresRead(state, readings), factsOf(gas, readings, service, against, states))
}

/** What readings come to, each figure with what the job's gauge and clamp leave in doubt. */
export function figuresRead(
  state: JobState,
  readings: RunningReadings & { at?: number },
): Partial<Record<Figure, Derived>> {
  const at = readings.at ?? Infinity
  // Readings from before a change of gas are those of the gas before.
  const gas = gasAt(state, at)
  if (!gas) return {}
  const gauge = gaugeAt(state, at).value
  const clamp = clampAt(state, at).value
  return figuresOf(readings, tableOf(gas), atmosphereOf(state), {
    lowPa: gauge,
    highPa: gauge,
    clampK: clamp,
    airK: clamp,
  })
}

/** What the figures of this job's system are held against now. */
export const serviceFacts = (state: JobState, service: Service, against: CheckedAgainst): ServiceFacts =>
  factsOf(state.refrigerant, checkReadings(state), service, against, statesNow(state))

/** The same for one set of readings: what the weather was then, and what it was at. */
function factsOf(
  gas: string | null,
  readings: RunningReadings,
  service: Service,
  { metering, plateSubcoolingK }: CheckedAgainst,
  states: ServiceFacts['states'],
): ServiceFacts {
  const target = orificeTarget(readings)
  return {
    service,
    lowGauge: gas !== null && lowGaugeIsUsual(gas, readings.ambientK),
    metering,
    plateSubcoolingK,
    states: { ...states, ...humidIn(readings) },
    ...(target !== undefined && { targetSuperheatK: target }),
  }
}

/** What a wet bulb shows of the room needs no word. */
function humidIn({ wetBulbK, airOnK }: RunningReadings): ServiceFacts['states'] {
  if (wetBulbK === undefined || airOnK === undefined) return {}
  const humidity = relativeHumidity(airOnK, wetBulbK)
  if (humidity >= HUMID.from) return { humid: true }
  return humidity <= HUMID.until ? { humid: false } : {}
}

/** Between these the air is cooled as usual, or somewhat less. */
const HUMID = { until: 0.55, from: 0.65 }

/** What a fixed orifice should show in the weather that was read; undefined: no wet bulb, or no weather for it. */
function orificeTarget({ wetBulbK, ambientK }: RunningReadings): number | undefined {
  if (wetBulbK === undefined || ambientK === undefined) return undefined
  const target = orificeTargetSuperheatK(wetBulbK, ambientK)
  return target < LEAST_TARGET_K ? undefined : target
}

/** How far the system stood above saturation when it was off, since the last gas moved. */
function standingOf(state: JobState): { aboveK: number; limitK: number } | undefined {
  const moved = Math.max(-1, ...state.transfers.map((each) => each.order))
  const noted = state.standing.findLast((each) => each.order > moved)
  if (!noted || !state.refrigerant) return undefined
  const table = tableOf(state.refrigerant)
  try {
    const saturatedK = saturationTempK(table, noted.pressurePa, 'bubble')
    const gaugeK =
      saturationTempK(table, noted.pressurePa + gaugeAt(state, noted.at).value, 'bubble') - saturatedK
    return {
      aboveK: saturatedK - noted.tempK,
      limitK: Math.hypot(gaugeK, clampAt(state, noted.at).value),
    }
  } catch (error) {
    if (!(error instanceof OutOfRangeError)) throw error
    return undefined
  }
}

function atmosphereOf({ pressureNotes }: JobState): number {
  return pressureNotes.findLast((each) => each.point === 'low')?.atmospherePa ?? STANDARD_ATMOSPHERE_PA
}

/**
 * What gauge and clamp leave in doubt of superheat and subcooling, K: two standard deviations; and which of the two
 * leaves more. While neither is named, what the trade reckons with.
 */
function readingDoubts(state: JobState): { doubts: ReadingDoubts; limitedBy?: LimitedBy } {
  const { lowPa, highPa, at } = checkReadings(state)
  if (!state.refrigerant || at === undefined) return { doubts: {} }
  const gauge = gaugeAt(state, at)
  const clamp = clampAt(state, at)
  if (gauge.label === '' && clamp.label === '') return { doubts: {} }
  const table = tableOf(state.refrigerant)
  const gaugeK = (pa: number | undefined, point: 'dew' | 'bubble') => {
    if (pa === undefined) return undefined
    try {
      return saturationTempK(table, pa + gauge.value, point) - saturationTempK(table, pa, point)
    } catch (error) {
      // Within its error of the table's end: nothing can be said of it, and the readings say so themselves.
      if (!(error instanceof OutOfRangeError)) throw error
      return undefined
    }
  }
  const [lowK, highK] = [gaugeK(lowPa, 'dew'), gaugeK(highPa, 'bubble')]
  const doubt = (byGaugeK: number | undefined) =>
    byGaugeK === undefined ? undefined : (2 * Math.hypot(byGaugeK, clamp.value)) / Math.sqrt(3)
  const widest = Math.max(lowK ?? 0, highK ?? 0)
  return {
    doubts: { superheatK: doubt(lowK), subcoolingK: doubt(highK) },
    limitedBy:
      widest > clamp.value ? { what: 'gauge', label: gauge.label } : { what: 'clamp', label: clamp.label },
  }
}
