/** Ways to get a charge out: the schools of the trade. */
export const RECOVERY_METHODS = [
  /** Let it run over into the colder or emptier cylinder, then start the machine. */
  'run-over-first',
  'liquid-then-vapour',
  'both-sides',
  'vapour-only',
  /** The system's own compressor pushes the liquid out, the machine takes the rest. */
  'own-compressor',
] as const
export type RecoveryMethod = (typeof RECOVERY_METHODS)[number]

/** What is known before a recovery. undefined: nobody has said. */
export interface BeforeRecovery {
  compressorRuns: boolean | undefined
  /** The oil is to stay in the system. */
  keepOil: boolean
  chargeKg: number | undefined
  /** Whether the machine may be given liquid; most may, throttled. */
  machineTakesLiquid: boolean
  /** A blend whose parts boil apart. */
  glide: boolean
  flammable: boolean
  vehicle: boolean
  /** The cylinder has nothing in it, or next to nothing. */
  cylinderEmpty: boolean
}

export type MethodReason =
  | 'fastest'
  | 'draws-for-nothing'
  | 'simple'
  | 'oil-stays'
  | 'spares-machine'
  | 'clean-and-dry'
  | 'moves-most-of-it'
  | 'whole-blend'
  | 'small-charge'
  | 'large-charge'
  | 'vehicle-way'
  | 'slow'
  | 'oil-comes-out'
  | 'machine-no-liquid'
  | 'compressor-not-known'
  | 'compressor-stands'
  | 'cylinder-not-empty'
  | 'more-joints-flammable'
  | 'little-to-gain'

export interface MethodChoice {
  method: RecoveryMethod
  for: MethodReason[]
  against: MethodReason[]
  /** It cannot be done here. */
  ruledOut: boolean
}

/** Below this the vapour alone is as quick as anything, kg. */
const SMALL_KG = 0.7
/** From here on it pays to let the compressor push, kg. */
const LARGE_KG = 8

/** What counts most, of what speaks for and against a method. */
const WEIGHT: Partial<Record<MethodReason, number>> = {
  fastest: 2,
  'oil-stays': 3,
  'spares-machine': 3,
  'large-charge': 3,
  'small-charge': 2,
  'vehicle-way': 3,
  'compressor-not-known': 3,
  'oil-comes-out': 3,
  'cylinder-not-empty': 4,
  'more-joints-flammable': 3,
}

/** All methods, the proposed one first, each with what speaks for it and against it. Rules of the trade, no standard. */
export function methodsFor(facts: BeforeRecovery): MethodChoice[] {
  return RECOVERY_METHODS.map((method) => judge(method, facts)).sort(
    (a, b) => Number(a.ruledOut) - Number(b.ruledOut) || standing(b) - standing(a),
  )
}

function standing({ for: speaksFor, against }: MethodChoice): number {
  const sum = (reasons: MethodReason[]) => reasons.reduce((all, reason) => all + (WEIGHT[reason] ?? 1), 0)
  return sum(speaksFor) - sum(against)
}

function judge(method: RecoveryMethod, facts: BeforeRecovery): MethodChoice {
  const { chargeKg, keepOil, machineTakesLiquid } = facts
  const small = chargeKg !== undefined && chargeKg <= SMALL_KG
  const large = chargeKg !== undefined && chargeKg >= LARGE_KG
  const speaksFor: MethodReason[] = []
  const against: MethodReason[] = []
  let ruledOut = false
  const says = (list: MethodReason[], so: boolean, reason: MethodReason) => so && list.push(reason)
  switch (method) {
    case 'run-over-first':
      says(speaksFor, facts.cylinderEmpty, 'draws-for-nothing')
      says(speaksFor, small && facts.cylinderEmpty, 'small-charge')
      says(against, !facts.cylinderEmpty, 'little-to-gain')
      break
    case 'liquid-then-vapour':
      says(speaksFor, !small, 'fastest')
      says(speaksFor, facts.glide, 'whole-blend')
      says(against, small, 'little-to-gain')
      says(against, keepOil, 'oil-comes-out')
      ruledOut = !machineTakesLiquid
      break
    case 'both-sides':
      speaksFor.push('simple')
      says(speaksFor, facts.vehicle, 'vehicle-way')
      says(against, keepOil, 'oil-comes-out')
      ruledOut = !machineTakesLiquid && !facts.vehicle
      break
    case 'vapour-only':
      says(speaksFor, keepOil, 'oil-stays')
      says(speaksFor, !machineTakesLiquid, 'spares-machine')
      says(speaksFor, small, 'small-charge')
      speaksFor.push('clean-and-dry')
      says(against, !small, 'slow')
      break
    case 'own-compressor':
      says(speaksFor, large, 'large-charge')
      speaksFor.push('moves-most-of-it')
      says(against, facts.compressorRuns === undefined, 'compressor-not-known')
      says(against, !facts.cylinderEmpty, 'cylinder-not-empty')
      says(against, facts.flammable, 'more-joints-flammable')
      says(against, small, 'little-to-gain')
      says(against, facts.vehicle, 'little-to-gain')
      ruledOut = facts.compressorRuns === false || facts.vehicle
      break
  }
  if (ruledOut)
    against.push(
      method === 'own-compressor' && facts.compressorRuns === false
        ? 'compressor-stands'
        : method === 'own-compressor'
          ? 'little-to-gain'
          : 'machine-no-liquid',
    )
  return { method, for: speaksFor, against: [...new Set(against)], ruledOut }
}
