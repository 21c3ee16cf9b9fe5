import { rule, quantity, type Verdict } from '../verdict'

/** What is known of gas that was recovered into a cylinder. */
export interface RecoveredGas {
  /** Air, or another gas, may have come with it: what speaks for that. Nobody has measured it since. */
  unmeasured: readonly ('air-drawn-in' | 'hoses-not-purged' | 'machine-not-known')[]
  /** The machine was purged, or what it keeps is booked: before that there is no word on it. */
  purged: boolean
  /** An acid test of gas or oil; undefined: none was made. */
  acid: boolean | undefined
  /** The compressor burnt, or was changed in this job. */
  compressorFailed: boolean
  /** Air stands in the cylinder: its share of the vapour. */
  airShare: number | undefined
  /** The identifier, or what was in the cylinder before, says that it is not one gas. */
  mixed: boolean
  /** Whose cylinder it is, and whose system: the same, another's, or nobody has said whose system it is. */
  owner: 'same' | 'other' | 'unknown'
  /** Condition of the cylinder before anything went in. */
  wasInIt: 'nothing' | 'clean' | 'used' | 'doubtful' | 'mixed'
}

export type GasCode =
  | 'gas-not-yet'
  /** Back into this system, or another of the same owner. */
  | 'gas-goes-back'
  /** Only after filtering and drying, and a test. */
  | 'gas-recycle'
  | 'gas-reclaim'
  /** Something speaks against it that a gauge at rest would settle. */
  | 'gas-measure-first'
  /** Nobody has said whose system it is, and it lies with other gas. */
  | 'gas-owner-open'
export type GasReason =
  | 'purge-first'
  | 'gas-mixed'
  | 'air-drawn-in'
  | 'hoses-not-purged'
  | 'machine-not-known'
  | 'rest-and-measure'
  | 'gas-acid'
  | 'gas-air'
  | 'gas-acid-not-tested'
  | 'gas-on-doubtful'
  | 'gas-clean-as-far'
  | 'gas-owner-same'
  | 'gas-owner-other'
  | 'gas-owner-unknown'
  | 'gas-lies-with-others'
  | 'gas-new-drier'
export type GasVerdict = Verdict<GasCode, GasReason>

/** Below this share of the vapour a gauge at rest cannot tell air from warmth. */
const AIR = 0.02

/**
 * May it go back? Clean gas goes back to its owner; burnt, airy or doubtful gas is recycled or reclaimed; a mixture is
 * reclaimed. United States, 40 CFR 82.154: without reclaim only into equipment of the same owner; European Union
 * 2024/573 lets recycled gas be used by whoever recycled it, and its owner. Defaults, to be checked against the text in force.
 */
export function judgeGas(gas: RecoveredGas): GasVerdict {
  const say = (outcome: Verdict['outcome'], code: GasCode, ...reasons: GasReason[]): GasVerdict => ({
    outcome,
    code,
    reasons: reasons.map((reason) => ({ code: reason })),
    numbers: gas.airShare === undefined ? [] : [quantity('air', gas.airShare, 'share')],
    rule: rule('back-to-its-owner'),
  })
  if (!gas.purged) return say('open', 'gas-not-yet', 'purge-first')
  if (gas.mixed || gas.wasInIt === 'mixed') return say('bad', 'gas-reclaim', 'gas-mixed')
  const airy = (gas.airShare ?? 0) >= AIR
  const amiss: GasReason[] = [
    ...(gas.acid ? (['gas-acid'] as const) : []),
    ...(airy ? (['gas-air'] as const) : []),
    ...(gas.wasInIt === 'doubtful' ? (['gas-on-doubtful'] as const) : []),
    ...(gas.acid === undefined && gas.compressorFailed ? (['gas-acid-not-tested'] as const) : []),
  ]
  const owner: GasReason =
    gas.owner === 'same' ? 'gas-owner-same' : gas.owner === 'other' ? 'gas-owner-other' : 'gas-owner-unknown'
  if (amiss.length > 0)
    return gas.owner === 'same'
      ? say('caution', 'gas-recycle', ...amiss, owner)
      : say('caution', 'gas-reclaim', ...amiss, owner)
  if (gas.owner === 'other') return say('caution', 'gas-reclaim', 'gas-owner-other')
  if (gas.owner === 'unknown' && gas.wasInIt !== 'nothing')
    return say('open', 'gas-owner-open', 'gas-lies-with-others')
  if (gas.unmeasured.length > 0)
    return say('open', 'gas-measure-first', ...gas.unmeasured, 'rest-and-measure')
  return say('good', 'gas-goes-back', 'gas-clean-as-far', owner, 'gas-new-drier')
}

/** How its cylinder is marked by that; undefined: nothing is said yet. */
export function markFor({ code, reasons }: GasVerdict): 'used' | 'doubtful' | 'mixed' | undefined {
  if (code === 'gas-not-yet' || code === 'gas-measure-first') return undefined
  if (reasons.some((each) => each.code === 'gas-mixed')) return 'mixed'
  // Another owner's is no worse for it: it is only not to be used here.
  const amiss = reasons.some(({ code: why }) =>
    ['gas-acid', 'gas-air', 'gas-on-doubtful', 'gas-acid-not-tested'].includes(why),
  )
  return amiss ? 'doubtful' : 'used'
}
