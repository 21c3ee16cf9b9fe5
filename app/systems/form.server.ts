import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { type Accessory, BORE_M, type Line } from '#core/systems'
import { customerNamed, siteNamed, type ShopTx, type SystemData } from '#db'
import { measured, readForm, type Refused, refrigerantField, refuse, text } from '~/form/read.server'
import { measure, type Reading } from '~/ui/measure'

interface SystemForm {
  name: string
  customer: string
  site: string
  altitude: number
  trade: SystemData['trade']
  refrigerant?: string
  plate?: number
  plateText?: string
  panelTotal?: number
  lines: string
  accessories: string
  oilType?: string
  metering: SystemData['metering']
  subcooling?: number
  maxTestPressure?: number
}

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
  altitudeM: number
}

const schema = (reading: Reading) =>
  Joi.object<SystemForm>({
    name: text('what the system is called', 200).required(),
    customer: text('whose it is', 200).required(),
    site: text('where it stands', 200).required(),
    altitude: Joi.number().integer().min(-450).max(5500).empty('').default(0).messages({
      '*': 'Enter the height above the sea in whole metres, or leave it empty.',
    }),
    trade: Joi.string().valid('stationary', 'vehicle').required(),
    refrigerant: refrigerantField,
    plate: measured('weight', 'the charge on the plate', reading),
    plateText: text('what else the plate says', 120),
    panelTotal: measured('weight', 'the total in the panel', reading),
    lines: Joi.string().default('[]'),
    accessories: Joi.string().default('[]'),
    oilType: text('the oil', 60),
    metering: Joi.string().valid('fixed', 'valve', 'unknown').required(),
    subcooling: Joi.number().min(0).max(30).empty('').messages({
      '*': 'Enter the subcooling printed on the plate in kelvin, 0 to 30, or leave it empty.',
    }),
    maxTestPressure: measured('pressure', 'the highest test pressure', reading),
  })

export async function readSystem(
  request: Request,
  reading: Reading,
): Promise<{ value: ReadSystem; refused?: undefined } | { value?: undefined; refused: Refused }> {
  const copy = await (request.clone() as Request).formData()
  const typed = Object.fromEntries([...copy].map(([k, v]) => [k, String(v)]))
  const form = await readForm(request, schema(reading))
  if (form.refused) return { refused: form.refused }
  const f = form.value
  const errors: Record<string, string> = {}
  const positive = (name: 'plate' | 'panelTotal') => {
    if (f[name] !== undefined && f[name] <= 0)
      errors[name] = 'A charge is more than nothing: leave it empty when it is not known.'
  }
  positive('plate')
  positive('panelTotal')
  const lines = readLines(f.lines, reading, errors)
  const accessories = readAccessories(f.accessories, reading, errors)
  if (Object.keys(errors).length > 0) return { refused: refuse(typed, errors) }
  return {
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
        metering: f.metering,
        subcoolingTargetK: f.subcooling ?? null,
        maxTestPressurePa: f.maxTestPressure ?? null,
      },
    },
  }
}

/** Finds or makes customer and site. @returns the site's id */
export async function placeOf(
  tx: ShopTx,
  { customer, site, altitudeM }: ReadSystem,
  at: Date,
): Promise<string> {
  const customerId = await customerNamed(tx, { customerId: randomUUID(), name: customer, at })
  return siteNamed(tx, { siteId: randomUUID(), customerId, name: site, altitudeM, at })
}

function readLines(json: string, reading: Reading, errors: Record<string, string>): Line[] {
  return listOf<TypedLine>(json).map((line, i) => {
    const length = measure('length', line.length, reading)
    const covered = measure('length', line.covered || '0', reading)
    if (length.kind !== 'one')
      errors[`line-${i}`] = 'Enter how long this line is, such as 12 m or 40 ft, or take it away.'
    else if (covered.kind !== 'one')
      errors[`line-${i}`] = 'Enter what the plate covers of it, such as 5 m, or leave it empty.'
    else if (!(line.od in BORE_M)) errors[`line-${i}`] = 'Choose the pipe from the list.'
    return {
      kind: line.kind === 'suction' ? 'suction' : 'liquid',
      od: line.od,
      lengthM: length.kind === 'one' ? length.value : 0,
      coveredM: covered.kind === 'one' ? covered.value : 0,
      guessed: Boolean(line.guessed),
    }
  })
}

function readAccessories(json: string, reading: Reading, errors: Record<string, string>): Accessory[] {
  return listOf<TypedAccessory>(json).map(({ name, mass }, i) => {
    const found = measure('weight', mass, reading)
    const trimmed = String(name).trim().slice(0, 120)
    if (trimmed === '')
      errors[`accessory-${i}`] = 'Enter what it is, such as liquid-line drier, or take it away.'
    else if (found.kind !== 'one')
      errors[`accessory-${i}`] = 'Enter how much gas it holds, with its unit, or take it away.'
    else if (found.value < 0) errors[`accessory-${i}`] = 'It cannot hold less than nothing.'
    return { name: trimmed, massMg: found.kind === 'one' ? found.value : 0 }
  })
}

function listOf<T>(json: string): T[] {
  try {
    const list: unknown = JSON.parse(json)
    return Array.isArray(list) ? (list.slice(0, 30) as T[]) : []
  } catch {
    // The page writes this field; anything else in it was not typed by anyone.
    return []
  }
}
