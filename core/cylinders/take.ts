import { refrigerant as factsOf } from '../refrigerants'
import { MG_PER_KG, STANDARD_ATMOSPHERE_PA } from '../units'
import type { Reason } from '../verdict'
import type { Cylinder } from './cylinder'
import { fillLimit, NoFillLimitError, transportPressurePa } from './fill'
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
}

export interface Fitness {
  /** Reasons why not; empty when it may. */
  refusals: Reason[]
  /** May, but look first. */
  warnings: Reason[]
  /** Net mass it can still take; undefined where no limit is known. */
  roomMg?: number
  /** Gross weight never to pass. */
  grossLimitMg?: number
}

/** May this cylinder take this recovered gas? Every refusal comes with its reason, all of them at once. */
export function mayTake(cylinder: Cylinder, request: TakeRequest): Fitness {
  const refusals: Reason[] = []
  const warnings: Reason[] = []
  const refuse = (code: string) => refusals.push({ code })

  if (cylinder.retired) refuse('retired')
  if (cylinder.kind === 'one-way') refuse('one-way')
  if (cylinder.kind === 'virgin') refuse('virgin-only')
  if (cylinder.condition === 'mixed') refuse('mixed')
  else if (cylinder.refrigerant && cylinder.refrigerant !== request.refrigerant) refuse('other-refrigerant')
  if (cylinder.condition === 'doubtful') warnings.push({ code: 'doubtful' })
  if (cylinder.ownerCustomerId && cylinder.ownerCustomerId !== request.customerId) refuse('other-owner')

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
        { name: 'room', value: room.roomMg / MG_PER_KG, unit: 'kg' },
        { name: 'expected', value: request.massMg / MG_PER_KG, unit: 'kg' },
      ],
    })
  else if (room && room.roomMg <= 0) refuse('full')
  if (request.massMg === null) warnings.push({ code: 'amount-unknown' })

  return { refusals, warnings, ...room }
}

/** May gas be charged from this cylinder into a system of this refrigerant? */
export function mayGive(
  cylinder: Cylinder,
  request: Pick<TakeRequest, 'refrigerant' | 'customerId' | 'massMg'>,
): Fitness {
  const refusals: Reason[] = []
  const warnings: Reason[] = []
  if (cylinder.retired) refusals.push({ code: 'retired' })
  if (cylinder.condition === 'mixed') refusals.push({ code: 'mixed' })
  if (cylinder.condition === 'doubtful') refusals.push({ code: 'doubtful-gas' })
  if (cylinder.refrigerant !== request.refrigerant)
    refusals.push({ code: cylinder.refrigerant ? 'other-refrigerant' : 'empty' })
  else if (cylinder.balanceMg <= 0) refusals.push({ code: 'empty' })
  else if (request.massMg !== null && request.massMg > cylinder.balanceMg)
    warnings.push({ code: 'not-enough' })
  if (cylinder.condition === 'used') {
    if (cylinder.ownerCustomerId && cylinder.ownerCustomerId !== request.customerId)
      refusals.push({ code: 'other-owner' })
    else warnings.push({ code: 'used-gas' })
  }
  return { refusals, warnings }
}

function judgeTest(cylinder: Cylinder, today: string, refusals: Reason[], warnings: Reason[]) {
  const { state } = testDate(cylinder.testedOn, cylinder.testYears, today, cylinder.kind === 'one-way')
  if (state === 'overdue') refusals.push({ code: 'test-overdue' })
  if (state === 'unknown') refusals.push({ code: 'test-unknown' })
  if (state === 'due-soon') warnings.push({ code: 'test-due-soon' })
}

function judgeStrength(cylinder: Cylinder, code: string, refusals: Reason[]) {
  if (factsOf(code).flammable && !cylinder.flammableOk) refusals.push({ code: 'not-for-flammable' })
  const wantedPa = transportPressurePa(code)
  if (cylinder.servicePressurePa === null) refusals.push({ code: 'pressure-unknown' })
  else if (wantedPa !== undefined) {
    const gaugeLimit = (cylinder.servicePressurePa - STANDARD_ATMOSPHERE_PA) * 1.25
    if (gaugeLimit < wantedPa - STANDARD_ATMOSPHERE_PA)
      refusals.push({ code: 'pressure-too-low', numbers: [{ name: 'wanted', value: wantedPa, unit: 'Pa' }] })
  }
}

function roomFor(cylinder: Cylinder, request: TakeRequest, refusals: Reason[]) {
  if (cylinder.kind === 'one-way') return undefined
  if (cylinder.waterCapacityMg === null) {
    refusals.push({ code: 'capacity-unknown' })
    return undefined
  }
  try {
    const limit = fillLimit({
      tareMg: cylinder.tareMg,
      waterCapacityMg: cylinder.waterCapacityMg,
      fillingRatio: cylinder.fillingRatio,
      refrigerant: request.refrigerant,
      marginPct: request.marginPct,
    })
    return { roomMg: limit.netMg - cylinder.balanceMg - cylinder.reservedMg, grossLimitMg: limit.grossMg }
  } catch (error) {
    if (!(error instanceof NoFillLimitError)) throw error
    refusals.push({ code: 'no-stamped-ratio' })
    return undefined
  }
}
