import { endOfTableK, tableOf } from '../refrigerants'
import { airShare, type AirShare } from './air'
import { type AtRest, identify } from './identify'

export type AtRestCode =
  /** It is that gas, as far as pressure and temperature can tell, and no other is like it. */
  | 'rest-sure'
  /** It is that gas, or one of those that are like it here. */
  | 'rest-not-told-apart'
  /** More pressure than it can have: air in it, or another gas. */
  | 'rest-above'
  /** Less: no liquid in it, or another gas. */
  | 'rest-below'
  /** Above its critical point: its pressure says how much is in there, and nothing of what it is. */
  | 'rest-no-liquid'
  /** Nobody has named a gas: these would fit. */
  | 'rest-unnamed'
  /** No gas that Keg knows fits. */
  | 'rest-none'

export interface RestVerdict {
  code: AtRestCode
  /** Other gases that have this pressure at this temperature, the likeliest first. */
  others: string[]
  /** What the named gas should have, absolute Pa, with a standard deviation. */
  saturationPa?: number
  sigmaPa?: number
  /** Where it stands above: what that would be in air. */
  air?: AirShare
}

/** What a vessel at rest says of the gas that is thought to be in it. @param named null: nobody has said */
export function judgeAtRest(at: AtRest, named: string | null): RestVerdict {
  const all = identify(at)
  const others = all.filter((each) => each.fit === 'fits' && each.code !== named).map((each) => each.code)
  const own = all.find((each) => each.code === named)
  if (named !== null && !own && at.tempK > endOfTableK(tableOf(named)))
    return { code: 'rest-no-liquid', others }
  if (named === null || !own) return { code: others.length > 0 ? 'rest-unnamed' : 'rest-none', others }
  const { fit, saturationPa, sigmaPa } = own
  const found = { others, saturationPa, sigmaPa }
  if (fit === 'fits') return { code: others.length > 0 ? 'rest-not-told-apart' : 'rest-sure', ...found }
  if (fit === 'below') return { code: 'rest-below', ...found }
  return { code: 'rest-above', ...found, air: airShare(at.pressurePa, saturationPa, sigmaPa) }
}
