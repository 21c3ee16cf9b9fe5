import { PA_PER_MICRON } from '#core/units'
import { waterPa } from '#core/refrigerants'
import { type Dice, dice, seedFor } from '../dice'

/** What is true of a generated hold. */
export type Truth = 'dry' | 'leak' | 'wet' | 'both'
export const TRUTHS: readonly Truth[] = ['dry', 'leak', 'wet', 'both']

export interface MadeHold {
  truth: Truth
  /** Micron a minute. */
  leak: number
  /** Micron that the water would add in the end, and how fast, s. */
  water: number
  waterS: number
  ambientK: number
  readings: { atS: number; pressurePa: number }[]
  /** The hold before it on the same system. */
  previous: { atS: number; pressurePa: number }[]
}

interface Nature {
  start: number
  oil: number
  oilS: number
  water: number
  waterS: number
  leak: number
  ambientK: number
  drift: number
}

const between = (d: Dice, least: number, most: number) => least + (most - least) * d.even()
const spread = (d: Dice, least: number, most: number) => least * (most / least) ** d.even()

/** How slow water usually is, s. */
const USUAL_S = 420

/**
 * A hold as a gauge would show it, a reading a second, 30 min and more at most: oil that gives off gas, water towards
 * a share of its saturation, a leak, an ambient that drifts, noise of the gauge, steps of its display. Leak (10 to
 * 1500 micron/min) and water (350 to 35 000 micron in half an hour where it is warm enough, within 1 to 7 min) over two decades.
 * @param slowest the slowest time constant of water, s
 */
export function madeHold(seed: number, truth: Truth, lengthS: number, slowest = USUAL_S): MadeHold {
  const d = dice(seedFor(seed, truth))
  const leaks = truth === 'leak' || truth === 'both'
  const wet = truth === 'wet' || truth === 'both'
  const ambientK = between(d, 288.15, 303.15)
  const saturated = (0.95 * waterPa(ambientK)) / PA_PER_MICRON
  const waterS = spread(d, 60, slowest)
  const inHalfAnHour = 1 - Math.exp(-1800 / waterS)
  const nature: Nature = {
    start: between(d, 150, 480),
    oil: between(d, 10, 180),
    oilS: between(d, 20, 150),
    water: wet ? Math.min(saturated, spread(d, 350, 35_000) / inHalfAnHour) : 0,
    waterS,
    leak: leaks ? spread(d, 10, 1500) : 0,
    ambientK,
    drift: between(d, -0.6, 0.6) / 1800,
  }
  const before: Nature = {
    ...nature,
    start: between(d, 150, 480),
    oil: nature.oil * between(d, 1.5, 4),
    oilS: nature.oilS * between(d, 0.8, 1.2),
    water: Math.min(saturated, nature.water * between(d, 1.5, 4)),
    waterS: nature.waterS * between(d, 0.8, 1.2),
    drift: between(d, -0.6, 0.6) / 1800,
  }
  return {
    truth,
    leak: nature.leak,
    water: nature.water,
    waterS: nature.waterS,
    ambientK: nature.ambientK,
    readings: shown(nature, lengthS, d),
    previous: shown(before, Math.min(lengthS, 900), d),
  }
}

/**
 * Where liquid is left its vapour follows saturation, 6 % for each kelvin; a little that has all evaporated is a gas
 * like any other. Between half of saturation and all of it the one passes into the other.
 */
const SATURATED_PER_K = 0.06
const NOISE = 0.01
/** Noise of a second hangs on the one before. */
const MEMORY = 0.6

function shown({ start, oil, oilS, water, waterS, leak, ambientK, drift }: Nature, lengthS: number, d: Dice) {
  const readings: { atS: number; pressurePa: number }[] = []
  const liquid = (2 * water * PA_PER_MICRON) / waterPa(ambientK) - 1
  const perK = Math.max(1 / ambientK, SATURATED_PER_K * Math.min(1, Math.max(0, liquid)))
  let vapour = 0
  let noise = 0
  for (let atS = 0; atS <= lengthS; atS++) {
    const warmer = drift * atS
    if (atS > 0) vapour += (water * (1 + perK * warmer) - vapour) / waterS
    const still = start + oil * (1 - Math.exp(-atS / oilS)) + (leak * atS) / 60
    const micron = still * (1 + warmer / ambientK) + vapour
    noise = MEMORY * noise + Math.sqrt(1 - MEMORY ** 2) * d.normal()
    const read = micron * (1 + NOISE * noise) + d.normal()
    const step = read < 1000 ? 1 : read < 10_000 ? 10 : 100
    readings.push({ atS, pressurePa: Math.max(0, Math.round(read / step) * step) * PA_PER_MICRON })
  }
  return readings
}
