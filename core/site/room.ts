import { STANDARD_ATMOSPHERE_PA, ZERO_CELSIUS_K } from '../units'
import { GAS_CONSTANT, refrigerant } from '../refrigerants'
import { rule, type Verdict } from '../verdict'

export interface RoomCheck {
  /** Concentration if all of it leaked and mixed evenly, kg/m3. */
  kgPerM3: number
  /** Share of the lower flammable limit; undefined where no figure is known. */
  ofLowerLimit?: number
  /** Largest charge that stays below the alarm share, kg. */
  largestKg?: number
  /** Parts per million by volume at 20 C. */
  ppm: number
  verdict: RoomVerdict
}

export type RoomCode =
  | 'below-alarm'
  | 'over-alarm'
  | 'could-burn'
  | 'toxic-over'
  | 'toxic-under'
  | 'not-flammable'
  | 'no-lower-limit'
type RoomVerdict = Verdict<RoomCode, RoomCode>

const OUTCOMES = { 'below-alarm': 'good', 'over-alarm': 'caution', 'could-burn': 'bad' } as const
/** Ammonia is ruled by toxicity: about 320 ppm. */
const AMMONIA_PPM = 320
const ROOM_K = 20 + ZERO_CELSIUS_K
const ROOM_PA = STANDARD_ATMOSPHERE_PA

/**
 * Charge against room volume: charge / (volume x lower flammable limit). Perfect mixing is assumed: low down it is
 * worse. Product and building standards rule.
 * @param alarmShare of the lower flammable limit, 0.05 to 0.25
 * @throws UnknownRefrigerantError
 */
export function roomCheck(code: string, chargeKg: number, volumeM3: number, alarmShare = 0.2): RoomCheck {
  const { lowerFlammableLimit, molarMassG, flammable } = refrigerant(code)
  const kgPerM3 = chargeKg / volumeM3
  const ppm = ((kgPerM3 * 1000) / molarMassG) * ((GAS_CONSTANT * ROOM_K) / ROOM_PA) * 1e6
  const verdict = (outcome: Verdict['outcome'], reason: RoomCode): RoomVerdict => ({
    outcome,
    code: reason,
    reasons: [{ code: reason }],
    numbers: [],
    rule: rule('charge-over-room'),
  })
  if (code === 'R-717') {
    const largestKg =
      (AMMONIA_PPM / 1e6) * volumeM3 * (ROOM_PA / (GAS_CONSTANT * ROOM_K)) * (molarMassG / 1000)
    const over = ppm > AMMONIA_PPM
    return {
      kgPerM3,
      ppm,
      largestKg,
      ofLowerLimit: kgPerM3 / lowerFlammableLimit!,
      verdict: verdict(over ? 'bad' : 'caution', over ? 'toxic-over' : 'toxic-under'),
    }
  }
  if (lowerFlammableLimit === undefined)
    return { kgPerM3, ppm, verdict: verdict('open', flammable ? 'no-lower-limit' : 'not-flammable') }
  const ofLowerLimit = kgPerM3 / lowerFlammableLimit
  const outcome = ofLowerLimit >= 1 ? 'could-burn' : ofLowerLimit > alarmShare ? 'over-alarm' : 'below-alarm'
  return {
    kgPerM3,
    ppm,
    ofLowerLimit,
    largestKg: alarmShare * lowerFlammableLimit * volumeM3,
    verdict: verdict(OUTCOMES[outcome], outcome),
  }
}
