import { refrigerant } from '../refrigerants'
import { rule, type Verdict } from '../verdict'

export type OilType = 'PAG' | 'POE' | 'PVE' | 'mineral' | 'AB'
export const OIL_TYPES: readonly OilType[] = ['PAG', 'POE', 'PVE', 'mineral', 'AB']
/** What drives the compressor: a belt, the high voltage of a vehicle, or the mains of a stationary machine. */
export type CompressorDrive = 'belt' | 'high-voltage' | 'stationary'

type Family = 'chlorine' | 'ammonia' | 'carbon-dioxide' | 'hydrocarbon' | 'with-hydrocarbon' | 'fluorine'

/** Oils that mix with each family and carry back to the compressor. */
const FITS: Record<Family, { good: OilType[]; maybe: OilType[] }> = {
  chlorine: { good: ['mineral', 'AB'], maybe: ['POE'] },
  ammonia: { good: ['mineral', 'AB'], maybe: ['PAG'] },
  'carbon-dioxide': { good: ['POE', 'PAG'], maybe: ['PVE'] },
  hydrocarbon: { good: ['mineral', 'AB', 'POE'], maybe: ['PAG', 'PVE'] },
  'with-hydrocarbon': { good: ['POE', 'mineral', 'AB'], maybe: ['PVE'] },
  fluorine: { good: ['POE', 'PVE'], maybe: ['PAG'] },
}

export type OilCode =
  | 'oil-pag-in-high-voltage'
  | 'oil-poe-in-high-voltage'
  | 'oil-not-in-high-voltage'
  | 'oil-pag-in-belt'
  | 'oil-poe-in-belt'
  | 'oil-does-not-mix'
  | 'oil-fits'
  | 'oil-maybe'
export type OilVerdict = Verdict<OilCode, OilCode>

/**
 * Does this oil belong to this refrigerant and this compressor? PAG for belt compressors; POE of the right kind for
 * high-voltage compressors, where a trace of PAG destroys the insulation; mineral oil, AB, POE and PVE each with its
 * refrigerants. The compressor maker's word wins.
 * @throws UnknownRefrigerantError
 */
export function judgeOilType(oil: OilType, code: string, drive: CompressorDrive): OilVerdict {
  const verdict = (outcome: Verdict['outcome'], reason: OilCode): OilVerdict => ({
    outcome,
    code: reason,
    reasons: [{ code: reason }],
    numbers: [],
    rule: rule('oil-practice'),
  })
  if (drive === 'high-voltage') {
    if (oil === 'PAG') return verdict('bad', 'oil-pag-in-high-voltage')
    return oil === 'POE'
      ? verdict('good', 'oil-poe-in-high-voltage')
      : verdict('bad', 'oil-not-in-high-voltage')
  }
  const family = familyOf(code)
  if (drive === 'belt' && oil === 'PAG' && (family === 'fluorine' || family === 'carbon-dioxide'))
    return verdict('good', 'oil-pag-in-belt')
  const { good, maybe } = FITS[family]
  if (drive === 'belt' && family === 'fluorine') {
    return oil === 'POE' ? verdict('caution', 'oil-poe-in-belt') : verdict('bad', 'oil-does-not-mix')
  }
  if (good.includes(oil)) return verdict('good', 'oil-fits')
  return maybe.includes(oil) ? verdict('caution', 'oil-maybe') : verdict('bad', 'oil-does-not-mix')
}

function familyOf(code: string): Family {
  const parts = Object.keys(refrigerant(code).composition)
  const has = (...names: string[]) => names.some((name) => parts.includes(name))
  if (has('R717')) return 'ammonia'
  if (parts.length === 1 && has('R744')) return 'carbon-dioxide'
  if (has('R12', 'R22', 'R115', 'R123')) return 'chlorine'
  if (parts.every((part) => ['R290', 'R600a'].includes(part))) return 'hydrocarbon'
  if (has('n-Butane', 'IsoButane')) return 'with-hydrocarbon'
  return 'fluorine'
}
