import { type Accessory, BORE_M, type Line } from '#core/systems'
import type { SystemData } from '#db'
import { checkForm, type Refused, refuse, type Typed } from '~/base/form/check'
import { measure, type ReadersUnits, typed as asTyped } from '~/base/ui/measure'
import { systemSchema } from './schema'

/** A line set and an accessory as they are typed; the list travels as JSON in one hidden field. */
export interface TypedLine {
  kind: string
  od: string
  length: string
  covered: string
  guessed: boolean
}
export interface TypedAccessory {
  name: string
  mass: string
}

export interface ReadSystem {
  data: Omit<SystemData, 'siteId'>
  customer: string
  site: string
  /** As typed; undefined: left open. */
  altitudeM: number | undefined
}

type SystemRead =
  | { value: ReadSystem; typed: Typed; refused?: undefined }
  | { value?: undefined; typed: Typed; refused: Refused }

/** What the form of a system says. */
export function systemFrom(sent: Typed, reading: ReadersUnits): SystemRead {
  const typed = { ...sent }
  // The page writes these two fields: what is sent back to it must be what it can read.
  typed.lines = JSON.stringify(linesIn(typed.lines))
  typed.accessories = JSON.stringify(accessoriesIn(typed.accessories))
  const form = checkForm(typed, systemSchema(reading))
  if (form.refused) return { typed, refused: form.refused }
  const f = form.value
  const errors: Record<string, string> = {}
  const positive = (name: 'plate' | 'panelTotal') => {
    if (f[name] !== undefined && f[name] <= 0)
      errors[name] = 'A charge is more than nothing: leave it empty when it is not known.'
  }
  positive('plate')
  positive('panelTotal')
  if (f.subcooling !== undefined && (f.subcooling < 0 || f.subcooling > 30))
    errors.subcooling = 'Subcooling on a plate lies between 0 and 30 K (54 °F): check it, or leave it empty.'
  const lines = readLines(f.lines, reading, errors)
  const accessories = readAccessories(f.accessories, reading, errors)
  if (Object.keys(errors).length > 0) return { typed, refused: refuse(typed, errors) }
  return {
    typed,
    value: {
      customer: f.customer,
      site: f.site,
      altitudeM: f.altitude,
      data: {
        name: f.name,
        trade: f.trade,
        refrigerant: f.refrigerant ?? null,
        plateMg: f.plate ?? null,
        plateText: f.plateText ?? '',
        panelTotalMg: f.panelTotal ?? null,
        lines,
        accessories,
        oilType: f.oilType ?? '',
        registration: f.registration ?? '',
        vin: f.vin ?? null,
        compressor: f.compressor ?? '',
        metering: f.metering,
        subcoolingTargetK: f.subcooling ?? null,
        maxTestPressurePa: f.maxTestPressure ?? null,
      },
    },
  }
}

/** A system's data as the form shows them. */
export function systemFields(
  s: Omit<SystemData, 'siteId'> & { customer: string; site: string; altitudeM: number | undefined },
  reading: ReadersUnits,
): Typed {
  return {
    name: s.name,
    customer: s.customer,
    site: s.site,
    altitude: s.altitudeM === undefined ? '' : asTyped('height', s.altitudeM, reading),
    trade: s.trade,
    refrigerant: s.refrigerant ?? '',
    plate: asTyped('weight', s.plateMg, reading),
    plateText: s.plateText,
    panelTotal: asTyped('weight', s.panelTotalMg, reading),
    metering: s.metering,
    subcooling: asTyped('difference', s.subcoolingTargetK, reading),
    oilType: s.oilType,
    registration: s.registration,
    vin: s.vin ?? '',
    compressor: s.compressor,
    maxTestPressure: asTyped('pressure', s.maxTestPressurePa, reading),
    lines: JSON.stringify(
      s.lines.map((l) => ({
        kind: l.kind,
        od: l.od,
        length: asTyped('length', l.lengthM, reading),
        covered: asTyped('length', l.coveredM, reading),
        guessed: l.guessed,
      })),
    ),
    accessories: JSON.stringify(
      s.accessories.map((a) => ({ name: a.name, mass: asTyped('weight', a.massMg, reading) })),
    ),
  }
}

function readLines(json: string, reading: ReadersUnits, errors: Record<string, string>): Line[] {
  return linesIn(json).map((line, i) => {
    const length = measure('length', line.length, reading)
    const covered = measure('length', line.covered || '0', reading)
    if (length.kind !== 'one')
      errors[`line-${i}`] = 'Enter how long this line is, such as 12 m or 40 ft, or take it away.'
    else if (covered.kind !== 'one')
      errors[`line-${i}`] = 'Enter what the plate covers of it, such as 5 m, or leave it empty.'
    else if (!Object.hasOwn(BORE_M, line.od)) errors[`line-${i}`] = 'Choose the pipe from the list.'
    return {
      kind: line.kind === 'suction' ? 'suction' : 'liquid',
      od: line.od,
      lengthM: length.kind === 'one' ? length.value : 0,
      coveredM: covered.kind === 'one' ? covered.value : 0,
      guessed: line.guessed,
    }
  })
}

function readAccessories(json: string, reading: ReadersUnits, errors: Record<string, string>): Accessory[] {
  return accessoriesIn(json).map(({ name, mass }, i) => {
    const found = measure('weight', mass, reading)
    const trimmed = name.trim().slice(0, 120)
    if (trimmed === '')
      errors[`accessory-${i}`] = 'Enter what it is, such as liquid-line drier, or take it away.'
    else if (found.kind !== 'one')
      errors[`accessory-${i}`] = 'Enter how much gas it holds, with its unit, or take it away.'
    else if (found.value < 0) errors[`accessory-${i}`] = 'It cannot hold less than nothing.'
    return { name: trimmed, massMg: found.kind === 'one' ? found.value : 0 }
  })
}

const linesIn = (json: string | undefined): TypedLine[] =>
  listOf(json, ({ kind, od, length, covered, guessed }) => ({
    kind: asText(kind),
    od: asText(od),
    length: asText(length),
    covered: asText(covered),
    guessed: guessed === true,
  }))

const accessoriesIn = (json: string | undefined): TypedAccessory[] =>
  listOf(json, ({ name, mass }) => ({ name: asText(name), mass: asText(mass) }))

const asText = (value: unknown): string =>
  typeof value === 'string' ? value.slice(0, 200).replaceAll('\0', '').toWellFormed() : ''

function listOf<T>(json: string | undefined, read: (item: Record<string, unknown>) => T): T[] {
  try {
    const list: unknown = JSON.parse(json || '[]')
    if (!Array.isArray(list)) return []
    return list
      .slice(0, 30)
      .filter((item): item is Record<string, unknown> => typeof item === 'object' && item !== null)
      .map(read)
  } catch {
    // The page writes this field; anything else in it was not typed by anyone.
    return []
  }
}
