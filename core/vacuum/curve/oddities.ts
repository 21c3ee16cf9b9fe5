import { PA_PER_MICRON } from '../../units'
import type { HoldReading } from '../hold'

/** What makes a curve no hold at all, or one that cannot be read. */
export type Oddity =
  | 'never-isolated'
  | 'gauge-replaced'
  | 'gap'
  | 'unit-mistaken'
  | 'sensor-pegged'
  | 'temperature-step'
  | 'fits-nothing'

/** Falls by more than this share, and this much, micron: the pump still draws. */
const FALL_SHARE = 0.06
const FALL_MICRON = 15
/** From one reading to the next, beside what it does before and after. */
const JUMP_SHARE = 0.25
const JUMP_MICRON = 60
const JUMP_TIMES = 8
/** Nobody holds below this: such figures are millibars or torr, micron. */
const TOO_GOOD_MICRON = 15
/** A longer silence, s, and beside the usual interval. */
const GAP_S = 180
const GAP_TIMES = 6
/** Live readings tremble: this many alike at the top are the end of a sensor. */
const ALIKE = 12
const ALIKE_S = 60
/** Gauges end at the least here, micron. */
const PEG_FROM_MICRON = 5000
const STEP_K = 1.5

/**
 * Wrong inputs, to be asked about before anything is read from the curve.
 * @param temperatures around the system at the beginning and at the end, K
 */
export function odditiesIn(
  readings: readonly HoldReading[],
  temperatures?: { startK: number; endK: number },
): Oddity[] {
  const found: Oddity[] = []
  const micron = readings.map(({ pressurePa }) => pressurePa / PA_PER_MICRON)
  if (readings.length < 2) return found
  const first = micron[0]!
  const last = micron.at(-1)!
  if (Math.max(...micron) < TOO_GOOD_MICRON) found.push('unit-mistaken')
  else if (readings.length > 2 && fallsAllAlong(micron)) found.push('never-isolated')
  if (first - last > Math.max(FALL_MICRON, FALL_SHARE * first) && !found.length) found.push('never-isolated')
  if (jumps(readings, micron)) found.push('gauge-replaced')
  const intervals = readings.slice(1).map((each, i) => each.atS - readings[i]!.atS)
  const usual = median(intervals)
  if (intervals.length > 8 && Math.max(...intervals) > Math.max(GAP_S, GAP_TIMES * usual)) found.push('gap')
  if (pegged(readings, micron)) found.push('sensor-pegged')
  if (temperatures && Math.abs(temperatures.endK - temperatures.startK) > STEP_K)
    found.push('temperature-step')
  return found
}

function fallsAllAlong(micron: number[]): boolean {
  const third = Math.max(1, Math.floor(micron.length / 3))
  const [a, b, c] = [
    mean(micron.slice(0, third)),
    mean(micron.slice(third, -third)),
    mean(micron.slice(-third)),
  ]
  return a - b > FALL_SHARE * a && b - c > FALL_SHARE * b && a - c > FALL_MICRON
}

/** A step that neither what came before nor what came after goes on with. */
function jumps(readings: readonly HoldReading[], micron: number[]): boolean {
  const steps = micron.slice(1).map((value, i) => value - micron[i]!)
  const rates = steps.map((step, i) => step / Math.max(1, readings[i + 1]!.atS - readings[i]!.atS))
  return steps.some((step, i) => {
    const level = Math.min(micron[i]!, micron[i + 1]!)
    if (Math.abs(step) < Math.max(JUMP_MICRON, JUMP_SHARE * level) || i === 0) return false
    const beside = [...rates.slice(Math.max(0, i - 5), i), ...rates.slice(i + 1, i + 6)]
    if (beside.length < 3) return false
    const fastest = Math.max(...beside.map(Math.abs))
    return Math.abs(rates[i]!) > JUMP_TIMES * Math.max(fastest, 1e-3)
  })
}

function pegged(readings: readonly HoldReading[], micron: number[]): boolean {
  const top = Math.max(...micron)
  if (top < PEG_FROM_MICRON) return false
  let from = micron.length
  while (from > 0 && micron[from - 1] === top) from--
  const alike = micron.length - from
  if (alike < 3) return false
  return (
    (alike >= ALIKE && readings.at(-1)!.atS - readings[from]!.atS >= ALIKE_S) ||
    (readings.length < ALIKE && alike >= 3)
  )
}

const mean = (list: number[]) => list.reduce((sum, each) => sum + each, 0) / Math.max(1, list.length)
const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0
