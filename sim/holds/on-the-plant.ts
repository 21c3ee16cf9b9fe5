import { GAS_CONSTANT } from '#core/refrigerants'
import type { HoldReading } from '#core/vacuum'
import { playerOf, type Scenario } from '../scenario'

export interface Evacuated {
  pumpedS: number
  /** Every ten seconds on the way down, from the beginning of the pumping. */
  down: HoldReading[]
  /** Every second of the hold. */
  hold: HoldReading[]
}

interface Course {
  /** Pumped down to, absolute Pa, or as long as so many seconds. */
  toPa: number
  longestS: number
  holdS: number
  times: number
}

const NITROGEN_PA = 101_325

/** A plant that is pumped down and held several times over, broken with dry nitrogen in between. */
export function evacuatedTimes(scenario: Scenario, { toPa, longestS, holdS, times }: Course): Evacuated[] {
  const player = playerOf({ ...scenario, untilS: Infinity, actions: [] })
  const { state } = player
  const { volumeM3 } = scenario.parameters.system
  const read = (lengthS: number, everyS: number, until = () => false): HoldReading[] => {
    const fromS = state.seconds
    const readings: HoldReading[] = []
    while (state.seconds - fromS < lengthS && !(readings.length > 3 && until())) {
      player.advance()
      const atS = readings.length * everyS
      if (state.seconds - fromS >= atS) readings.push({ atS, pressurePa: state.seen.systemPa })
    }
    return readings
  }
  return Array.from({ length: times }, (_, i) => {
    if (i > 0) state.system.airMol += (NITROGEN_PA * volumeM3) / (GAS_CONSTANT * scenario.parameters.ambientK)
    Object.assign(state.controls, { line: 'pump', pump: true, valve: 'vapour' })
    const down = read(longestS, 10, () => state.seen.systemPa <= toPa)
    Object.assign(state.controls, { pump: false, valve: 'closed' })
    return { pumpedS: down.at(-1)!.atS, down, hold: read(holdS, 1) }
  })
}
