import { refrigerant as factsOf } from '../refrigerants'
import { MG_PER_KG, STANDARD_ATMOSPHERE_PA } from '../units'
import { quantity, type Reason } from '../verdict'
import { type Cylinder, leastInMg, mostInMg } from './cylinder'
import { neededPressurePa } from './fill'
import { cylinderLimit, type LimitRefusal } from './limit'
import { testDate } from './test-date'

export interface TakeRequest {
  /** Refrigerant to be recovered. */
  refrigerant: string
  /** How much is expected to come; null when nobody knows: then any room will do, with a warning. */
  massMg: number | null
  /** `2026-11-24` where the shop is. */
  today: string
  /** Whose gas it is; null: the shop's own or not known. */
  customerId: string | null
  marginPct: number
  /** What it holds came from this job. */
  ownGasInIt?: boolean
  /** An identifier says that it is not one gas, or not the one that is named. */
  foul?: boolean
}

/** Less than this in it is nothing that could be spoilt, mg. */
const AS_GOOD_AS_EMPTY_MG = 50_000

export type FitnessCode =
  | LimitRefusal
  | 'retired'
  | 'virgin-only'
  | 'mixed'
  | 'doubtful'
  | 'doubtful-gas'
  | 'other-refrigerant'
  | 'other-owner'
  | 'owner-onto-shops'
  | 'test-overdue'
  | 'test-unknown'
  | 'test-due-soon'
  | 'not-for-flammable'
  | 'pressure-unknown'
  | 'pressure-too-low'
  | 'room-reserved'
  | 'too-small'
  | 'full'
  | 'amount-unknown'
  | 'not-enough'
  | 'empty'
  | 'used-gas'
  | 'scale-and-books-differ'
  | 'foul-gas'
export type FitnessReason = Reason<FitnessCode>

export interface Fitness {
  /** Reasons why not; empty when it may. */
  refusals: FitnessReason[]
  /** May, but look first. */
  warnings: FitnessReason[]
  /** Net mass it can still take; undefined where no limit is known. */
  roomMg?: number
  /** Gross weight never to pass. */
  grossLimitMg?: number
}

/** May this cylinder take this recovered gas? Every refusal comes with its reason, all of them at once. */
export function mayTake(cylinder: Cylinder, request: TakeRequest): Fitness {
  const refusals: FitnessReason[] = []
  const warnings: FitnessReason[] = []
  const refuse = (code: FitnessCode) => refusals.push({ code })

  if (cylinder.retired) refuse('retired')
  if (cylinder.kind === 'one-way') refuse('one-way')
  if (cylinder.kind === 'virgin') refuse('virgin-only')
  if (cylinder.condition === 'mixed') {
    if (!request.foul) refuse('mixed')
  } else if (request.foul) {
    // A foul gas goes to a cylinder of its own, never to one that holds anything better.
    if (mostInMg(cylinder) > AS_GOOD_AS_EMPTY_MG) refuse('foul-gas')
  } else if (cylinder.refrigerant && cylinder.refrigerant !== request.refrigerant) refuse('other-refrigerant')
  if (cylinder.condition === 'doubtful') warnings.push({ code: 'doubtful' })
  if (cylinder.ownerCustomerId && cylinder.ownerCustomerId !== request.customerId) refuse('other-owner')
  // Gas of a customer onto the shop's own: it belongs to both afterwards, and goes back to neither.
  if (!cylinder.ownerCustomerId && request.customerId && cylinder.balanceMg > 0 && !request.ownGasInIt)
    warnings.push({ code: 'owner-onto-shops' })

  judgeTest(cylinder, request.today, refusals, warnings)
  judgeStrength(cylinder, request.refrigerant, refusals)

  const room = roomFor(cylinder, request, refusals)
  if (room && request.massMg !== null && request.massMg > room.roomMg)
    refusals.push({
      code:
        cylinder.reservedMg > 0 && request.massMg <= room.roomMg + cylinder.reservedMg
          ? 'room-reserved'
          : 'too-small',
      numbers: [
        quantity('room', room.roomMg / MG_PER_KG, 'kg'),
        quantity('expected', request.massMg / MG_PER_KG, 'kg'),
      ],
    })
  else if (room && room.roomMg <= 0) refuse('full')
  if (request.massMg === null) warnings.push({ code: 'amount-unknown' })
  if (cylinder.offMg !== 0) warnings.push({ code: 'scale-and-books-differ' })

  return { refusals, warnings, ...room }
}

/** May gas be charged from this cylinder into a system of this refrigerant? */
export function mayGive(
  cylinder: Cylinder,
  request: Pick<TakeRequest, 'refrigerant' | 'customerId' | 'massMg'>,
): Fitness {
  const refusals: FitnessReason[] = []
  const warnings: FitnessReason[] = []
  if (cylinder.retired) refusals.push({ code: 'retired' })
  if (cylinder.condition === 'mixed') refusals.push({ code: 'mixed' })
  if (cylinder.condition === 'doubtful') refusals.push({ code: 'doubtful-gas' })
  if (cylinder.refrigerant !== request.refrigerant)
    refusals.push({ code: cylinder.refrigerant ? 'other-refrigerant' : 'empty' })
  else if (cylinder.balanceMg <= 0) refusals.push({ code: 'empty' })
  else if (request.massMg !== null && request.massMg > leastInMg(cylinder))
    warnings.push({ code: 'not-enough' })
  // Clean or not, it is theirs.
  if (cylinder.ownerCustomerId && cylinder.ownerCustomerId !== request.customerId)
    refusals.push({ code: 'other-owner' })
  else if (cylinder.condition === 'used') warnings.push({ code: 'used-gas' })
  if (cylinder.offMg !== 0) warnings.push({ code: 'scale-and-books-differ' })
  return { refusals, warnings }
}

function judgeTest(cylinder: Cylinder, today: string, refusals: FitnessReason[], warnings: FitnessReason[]) {
  const { state } = testDate(cylinder.testedOn, cylinder.testYears, today, cylinder.kind === 'one-way')
  if (state === 'overdue') refusals.push({ code: 'test-overdue' })
  if (state === 'unknown') refusals.push({ code: 'test-unknown' })
  if (state === 'due-soon') warnings.push({ code: 'test-due-soon' })
}

function judgeStrength(cylinder: Cylinder, code: string, refusals: FitnessReason[]) {
  if (factsOf(code).flammable && !cylinder.flammableOk) refusals.push({ code: 'not-for-flammable' })
  const wantedPa = neededPressurePa(code)
  if (cylinder.servicePressurePa === null) refusals.push({ code: 'pressure-unknown' })
  else {
    const gaugeLimit = (cylinder.servicePressurePa - STANDARD_ATMOSPHERE_PA) * 1.25
    if (gaugeLimit < wantedPa - STANDARD_ATMOSPHERE_PA)
      refusals.push({ code: 'pressure-too-low', numbers: [quantity('wanted', wantedPa, 'Pa')] })
  }
}

function roomFor(cylinder: Cylinder, request: TakeRequest, refusals: FitnessReason[]) {
  // What it is nobody knows: the lightest liquid that it may be counts.
  const asItWillBe = request.foul ? { ...cylinder, condition: 'mixed' as const } : cylinder
  const found = cylinderLimit(asItWillBe, request.refrigerant, request.marginPct)
  if (found.kind === 'known')
    return {
      roomMg: found.limit.netMg - mostInMg(cylinder) - cylinder.reservedMg,
      grossLimitMg: found.limit.grossMg,
    }
  if (found.why !== 'one-way') refusals.push({ code: found.why })
  return undefined
}
