import { askAboutArrival, brimfulMg, isUnlikelyTare, looksLikeASizeName } from '#core/cylinders'
import type { CylinderData } from '#db'
import { checkForm, type Refused, refuse, type Typed } from '~/base/form/check'
import { type ReadersUnits, typed as asTyped } from '~/base/ui/measure'
import { cylinderSchema } from './schema'

/** Caps and a worn collar: so much below the tare an empty cylinder may weigh, mg. */
const TARE_SLACK_MG = 50_000

const CONDITIONS: CylinderData['condition'][] = ['clean', 'used', 'doubtful', 'mixed']

/** Those that are no better than it is marked: better is an act of its own, with a reason. */
export const noBetterThan = (condition: CylinderData['condition']) =>
  CONDITIONS.slice(CONDITIONS.indexOf(condition))

type CylinderRead =
  | { data: CylinderData; contentsMg: number; typed: Typed; refused?: undefined }
  | { data?: undefined; typed: Typed; refused: Refused }

/** What the form of a cylinder says. A round water capacity is questioned once: it is more often the size in a name. */
export function cylinderFrom(
  sent: Typed,
  reading: ReadersUnits,
  today: string,
  marginPct: number,
): CylinderRead {
  const form = checkForm(sent, cylinderSchema(reading, today))
  const { typed } = form
  if (form.refused) return { typed, refused: form.refused }
  const f = form.value
  const errors: Record<string, string> = {}
  if (f.tare <= 0) errors.tare = 'The tare is more than nothing: read TW on the collar.'
  if (f.waterCapacity !== undefined && f.waterCapacity <= 0)
    errors.waterCapacity = 'The water capacity is more than nothing: read WC on the collar.'
  else if (f.waterCapacity !== undefined && looksLikeASizeName(f.waterCapacity) && !f.stampChecked)
    errors.waterCapacity =
      'That is a round figure: is it the size in its name? A “30 lb” cylinder has about 26 lb of water capacity. Read WC on the collar, or tick below that it is stamped so.'
  if (f.waterCapacity !== undefined && isUnlikelyTare(f.tare, f.waterCapacity) && !f.stampChecked)
    errors.tare ??=
      'No cylinder of this water capacity weighs that: look at the point and the unit. Read TW on the collar, or tick below that it is stamped so.'
  if (f.fillingRatio !== undefined && !f.ratioGas && !f.refrigerant)
    errors.ratioGas = 'Choose the gas that the ratio is stamped for: it belongs to one gas.'
  const contentsMg = f.gross === undefined ? (f.contents ?? 0) : f.gross - f.tare
  if (f.gross !== undefined && f.contents !== undefined)
    errors.gross = 'Enter what the scale shows, or what is in it, not both: one follows from the other.'
  else if (f.gross !== undefined && contentsMg < -TARE_SLACK_MG)
    errors.gross = 'That is less than the empty cylinder weighs: check the scale and the stamped tare.'
  if (contentsMg > 0 && !f.refrigerant) errors.refrigerant = 'Choose what it holds.'
  if ((f.contents ?? 0) < 0) errors.contents = 'What is in it cannot be less than nothing.'
  const data: CylinderData = {
    label: f.label,
    kind: f.kind,
    refrigerant: f.refrigerant ?? null,
    tareMg: f.tare,
    waterCapacityMg: f.waterCapacity ?? null,
    fillingRatio: f.fillingRatio ?? null,
    ratioGas: f.fillingRatio === undefined ? null : (f.ratioGas ?? f.refrigerant ?? null),
    workingFillPct: f.workingFillPct ?? null,
    servicePressurePa: f.servicePressure ?? null,
    testedOn: f.testedOn ?? null,
    testYears: f.testYears,
    flammableOk: f.flammableOk,
    condition: f.condition,
    ownerCustomerId: f.ownerCustomerId ?? null,
    keepsAt: f.keepsAt ?? '',
  }
  const field = f.gross === undefined ? 'contents' : 'gross'
  if (Object.keys(errors).length === 0 && contentsMg > 0) {
    const why = tooFull(data, contentsMg, marginPct, f.contentsChecked)
    if (why) errors[field] = why
  }
  if (Object.keys(errors).length > 0) return { typed, refused: refuse(typed, errors) }
  return { typed, contentsMg: Math.max(0, contentsMg), data }
}

/** What was asked about when they were typed, and is so. */
export const hasOddStamps = ({ tareMg, waterCapacityMg }: Pick<CylinderData, 'tareMg' | 'waterCapacityMg'>) =>
  waterCapacityMg !== null && (looksLikeASizeName(waterCapacityMg) || isUnlikelyTare(tareMg, waterCapacityMg))

/** What cannot be in it; what is past its limit is asked about, since there are such cylinders. */
function tooFull(data: CylinderData, contentsMg: number, marginPct: number, isSure: boolean) {
  const empty = { ...data, balanceMg: 0 }
  const mostMg = brimfulMg(empty)
  if (mostMg !== undefined && data.tareMg + contentsMg > mostMg)
    return 'Filled to the brim it would hold less than that: look at the digits, the point and the unit, and at its water capacity.'
  return !isSure && askAboutArrival(contentsMg, empty, marginPct)
    ? 'That is past its limit. Look at the digits, the point and the unit; if it does hold so much, tick it below.'
    : undefined
}

/** A cylinder's data as the form shows it. */
export function cylinderFields(c: CylinderData, reading: ReadersUnits): Typed {
  return {
    label: c.label,
    kind: c.kind,
    refrigerant: c.refrigerant ?? '',
    condition: c.condition,
    tare: asTyped('weight', c.tareMg, reading),
    waterCapacity: asTyped('weight', c.waterCapacityMg, reading),
    servicePressure: asTyped('pressure', c.servicePressurePa, reading),
    fillingRatio: c.fillingRatio === null ? '' : String(c.fillingRatio),
    ratioGas: c.ratioGas ?? '',
    workingFillPct: c.workingFillPct === null ? '' : String(c.workingFillPct),
    testedOn: c.testedOn ?? '',
    testYears: String(c.testYears),
    flammableOk: c.flammableOk ? 'on' : '',
    ownerCustomerId: c.ownerCustomerId ?? '',
    keepsAt: c.keepsAt,
  }
}
