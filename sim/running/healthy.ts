import { saturationPressurePa, tableOf } from '#core/refrigerants'
import {
  figuresOf,
  judgePattern,
  lowGaugeIsUsual,
  type MachineState,
  type Pattern,
  type RunningReadings,
  type ServiceFacts,
} from '#core/verify'
import { type Dice, dice, seedFor } from '../dice'
import { ATMOSPHERE_PA, INSTRUMENTS } from './read'

/** Machines with nothing wrong, as the trade meets them. */
export const HEALTHY_KINDS = [
  'comfort, valve',
  'comfort, orifice',
  'inverter at part load',
  'staged, low stage',
  'store in summer',
  'store in winter, fans hold the head',
  'store in winter, flooded condenser',
  'freezer',
  'heat pump, heating',
  'humid room',
  'vehicle',
  'vehicle, controlled compressor at part load',
] as const
export type HealthyKind = (typeof HEALTHY_KINDS)[number]

/** What somebody who stands there would say of it, where he is asked. */
export const SAID_OF: Partial<Record<HealthyKind, MachineState>> = {
  'inverter at part load': 'part-load',
  'staged, low stage': 'part-load',
  'store in winter, fans hold the head': 'head-held',
  'store in winter, flooded condenser': 'head-held',
  'heat pump, heating': 'heating',
  'humid room': 'humid',
  'vehicle, controlled compressor at part load': 'part-load',
}

/** What is so on it; each spread evenly, °C and K. */
interface Nature {
  service: ServiceFacts['service']
  gas: string
  metering: ServiceFacts['metering']
  airOnC: number
  ambientC: number
  td: number
  over: number
  superheat: number
  subcooling: number
  drop: number
  wetBulbC?: number
  lowBarG?: number
  ventDrop?: number
}

const between = (d: Dice, least: number, most: number) => least + (most - least) * d.even()

function natureOf(kind: HealthyKind, d: Dice): Nature {
  const comfort = (): Nature => ({
    service: 'comfort',
    gas: 'R-410A',
    metering: 'valve',
    airOnC: between(d, 22, 27),
    ambientC: between(d, 24, 37),
    td: between(d, 15.5, 20),
    over: between(d, 9.5, 15),
    superheat: between(d, 4.5, 7.5),
    subcooling: between(d, 4.5, 7.5),
    drop: between(d, 8.5, 11.5),
  })
  /** Less through the same coils: everything lies closer to the air. */
  const atLoad = (load: number): Nature => {
    const full = comfort()
    return {
      ...full,
      td: full.td * load,
      over: full.over * load,
      subcooling: full.subcooling * Math.sqrt(load),
      drop: full.drop * load ** 0.8,
    }
  }
  const store = (): Nature => ({
    ...comfort(),
    service: 'cold-store',
    gas: 'R-449A',
    airOnC: between(d, 1, 4),
    td: between(d, 5.5, 8.5),
    over: between(d, 9, 14),
    superheat: between(d, 4.2, 6.8),
    subcooling: between(d, 3.5, 6.5),
    drop: between(d, 3.3, 5.7),
  })
  /** The head is held for the valve's sake: by 25 to 33 °C, however cold it is outside. */
  const winter = (subcooling: number): Nature => {
    const ambientC = between(d, -8, 10)
    return { ...store(), ambientC, over: between(d, 25, 33) - ambientC, subcooling }
  }
  switch (kind) {
    case 'comfort, valve':
      return comfort()
    case 'comfort, orifice':
      return { ...comfort(), metering: 'fixed', superheat: between(d, 5, 12) }
    case 'inverter at part load':
      return atLoad(between(d, 0.35, 0.85))
    case 'staged, low stage':
      return atLoad(between(d, 0.62, 0.72))
    case 'store in summer':
      return store()
    case 'store in winter, fans hold the head':
      return winter(between(d, 3.5, 7))
    case 'store in winter, flooded condenser':
      return winter(between(d, 6, 18))
    case 'freezer':
      return {
        ...store(),
        service: 'freezer',
        airOnC: between(d, -22, -18),
        td: between(d, 5.2, 7.8),
        superheat: between(d, 3.2, 5.8),
        drop: between(d, 3.2, 4.8),
      }
    case 'heat pump, heating':
      return {
        ...comfort(),
        airOnC: between(d, 0, 10),
        ambientC: between(d, 20, 23),
        td: between(d, 6, 10),
        over: between(d, 17, 25),
        superheat: between(d, 2.5, 6.5),
        drop: between(d, 3, 5),
      }
    case 'humid room': {
      const full = comfort()
      const humidity = between(d, 0.7, 0.9)
      // Much of the work goes into water: the air cools less. Wet bulb by the depression at that humidity.
      return { ...full, drop: between(d, 4.5, 8), wetBulbC: full.airOnC - (1 - humidity) * 13 }
    }
    case 'vehicle':
      return {
        ...comfort(),
        service: 'vehicle',
        gas: 'R-134a',
        over: between(d, 17, 26),
        lowBarG: between(d, 1.4, 2.7),
        ventDrop: between(d, 16, 24),
        ambientC: between(d, 21, 34),
      }
    case 'vehicle, controlled compressor at part load':
      return {
        ...comfort(),
        service: 'vehicle',
        gas: 'R-134a',
        over: between(d, 9, 17),
        lowBarG: between(d, 1.8, 2.3),
        ventDrop: between(d, 12, 18),
        ambientC: between(d, 20.5, 26),
      }
  }
}

/** A healthy machine of some kind, as it truly stands. The same seed makes the same one. */
export function madeHealthy(kind: HealthyKind, seed: number) {
  const d = dice(seedFor(seed, kind))
  const of = natureOf(kind, d)
  const table = tableOf(of.gas)
  const k = (celsius: number) => celsius + 273.15
  const dewC = of.airOnC - of.td
  const headC = of.ambientC + of.over
  const vehicle = of.service === 'vehicle'
  const readings: RunningReadings = {
    lowPa:
      of.lowBarG === undefined
        ? saturationPressurePa(table, k(dewC), 'dew')
        : ATMOSPHERE_PA + of.lowBarG * 1e5,
    highPa: saturationPressurePa(table, k(headC), 'bubble'),
    liquidK: k(headC - of.subcooling),
    ambientK: k(of.ambientC),
    ...(vehicle
      ? { ventK: k(of.ambientC - of.ventDrop!) }
      : {
          suctionK: k(dewC + of.superheat),
          airOnK: k(of.airOnC),
          airOffK: k(of.airOnC - of.drop),
          condenserOffK: k(of.ambientC + 0.45 * of.over),
        }),
    ...(of.wetBulbC !== undefined && { wetBulbK: k(of.wetBulbC) }),
  }
  return { of, table, readings }
}

const READ_BY: Partial<Record<keyof RunningReadings, keyof (typeof INSTRUMENTS)['good']>> = {
  lowPa: 'lowPa',
  highPa: 'highPa',
  suctionK: 'clampK',
  liquidK: 'clampK',
}

/** What is said of it, read with instruments of a kind. @param states what somebody has said of it */
export function healthyJudged(
  kind: HealthyKind,
  seed: number,
  by: keyof typeof INSTRUMENTS,
  states: ServiceFacts['states'] = {},
): Pattern | undefined {
  const { of, table, readings } = madeHealthy(kind, seed)
  const d = dice(seedFor(seed, `reading ${by}`))
  const off = (limit: number) => (limit / Math.sqrt(3)) * Math.max(-2.5, Math.min(2.5, d.normal()))
  const limits = INSTRUMENTS[by]
  const read = Object.fromEntries(
    (Object.entries(readings) as [keyof RunningReadings, number][]).map(([name, value]) => [
      name,
      value + off(limits[READ_BY[name] ?? 'airK']),
    ]),
  ) as RunningReadings
  return judgePattern(figuresOf(read, table, ATMOSPHERE_PA, limits), {
    service: of.service,
    metering: of.metering,
    plateSubcoolingK: null,
    lowGauge: lowGaugeIsUsual(of.gas, read.ambientK),
    states,
  })
}
