import { ZERO_CELSIUS_K } from '../units'
import { rule, type Verdict } from '../verdict'

/** Drop from the air that goes in to the air at the centre vent, kelvin. */
const USUAL_DROP_K = 15
const WEAK_DROP_K = 8
const ICE_K = ZERO_CELSIUS_K + 1
/** No coil cools below this, so that cool air has less to lose: half of that is weak in any weather. */
const COLDEST_VENT_K = ZERO_CELSIUS_K + 4
const HALF = 0.5

export type VentCode = 'vent-cold' | 'vent-middling' | 'vent-warm' | 'vent-near-ice'

export interface VentResult {
  dropK: number
  verdict: Verdict<VentCode, VentCode>
}

/**
 * Vent check of a vehicle at maximum cold, low fan, recirculated air: a rule of thumb, since humid air cools less and
 * the maker's table wins.
 */
export function judgeVent(ventK: number, airInK: number): VentResult {
  const dropK = airInK - ventK
  const verdict = (outcome: Verdict['outcome'], code: VentCode): VentResult => ({
    dropK,
    verdict: {
      outcome,
      code,
      reasons: [{ code }],
      numbers: [],
      rule: rule('vent-thumb'),
    },
  })
  if (ventK < ICE_K) return verdict('caution', 'vent-near-ice')
  if (dropK >= USUAL_DROP_K) return verdict('good', 'vent-cold')
  const weakK = Math.min(WEAK_DROP_K, HALF * Math.max(0, airInK - COLDEST_VENT_K))
  return dropK >= weakK ? verdict('open', 'vent-middling') : verdict('caution', 'vent-warm')
}
