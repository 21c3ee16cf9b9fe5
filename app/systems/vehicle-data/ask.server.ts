import Joi from 'joi'
import { REFRIGERANTS } from '#core/refrigerants'

/** What a service says of a vehicle; what it does not say is left out. */
export interface VehicleData {
  make: string
  model: string
  year?: number
  refrigerant?: string
  chargeG?: number
  toleranceG?: number
  oilType?: string
  oilMl?: number
  drive?: 'belt' | 'high-voltage'
}

export type VehicleAnswer =
  | { kind: 'found'; vehicle: VehicleData }
  | { kind: 'unknown' }
  /** No service is set up for this shop. */
  | { kind: 'none' }
  | { kind: 'unreachable' }
  /** It answered, and not by its contract. */
  | { kind: 'nonsense' }

const ANSWER_MS = 3_000
const LARGEST = 64_000

const VEHICLE = Joi.object<VehicleData>({
  make: Joi.string().max(80).required(),
  model: Joi.string().max(120).required(),
  year: Joi.number().integer().min(1950).max(2100),
  refrigerant: Joi.string().valid(...REFRIGERANTS),
  chargeG: Joi.number().min(10).max(50_000),
  toleranceG: Joi.number().min(0).max(1_000),
  oilType: Joi.string().max(60),
  oilMl: Joi.number().min(0).max(5_000),
  drive: Joi.string().valid('belt', 'high-voltage'),
})

/**
 * Asks the service at KEG_VEHICLE_DATA for a vehicle by its number, else by its registration (docs/vehicle-data.md). Slow,
 * silent, too long or not by the contract: each is an answer, and none stops a page.
 */
export async function askVehicle(
  by: { vin?: string; registration?: string },
  service = process.env.KEG_VEHICLE_DATA,
): Promise<VehicleAnswer> {
  if (!service) return { kind: 'none' }
  const url = new URL('/v1/vehicles', service)
  if (by.vin) url.searchParams.set('vin', by.vin)
  else if (by.registration) url.searchParams.set('registration', by.registration)
  else return { kind: 'unknown' }
  let text: string
  try {
    const response = await fetch(url, { signal: AbortSignal.timeout(ANSWER_MS), redirect: 'error' })
    if (response.status === 404) {
      await response.body?.cancel()
      return { kind: 'unknown' }
    }
    if (!response.ok) {
      await response.body?.cancel()
      return { kind: 'unreachable' }
    }
    text = await upTo(response, LARGEST)
  } catch (error) {
    return { kind: error instanceof TooLongError ? 'nonsense' : 'unreachable' }
  }
  return read(text)
}

class TooLongError extends Error {}

/** @throws TooLongError beyond so many bytes: whatever comes after is not read. */
async function upTo(response: Response, most: number): Promise<string> {
  const chunks: Uint8Array[] = []
  let length = 0
  for await (const chunk of response.body ?? []) {
    length += (chunk as Uint8Array).length
    if (length > most) throw new TooLongError()
    chunks.push(chunk as Uint8Array)
  }
  return Buffer.concat(chunks).toString('utf8')
}

function read(text: string): VehicleAnswer {
  let said: unknown
  try {
    said = JSON.parse(text)
  } catch {
    return { kind: 'nonsense' }
  }
  const { value, error } = VEHICLE.validate(said, { convert: false, stripUnknown: true })
  return error ? { kind: 'nonsense' } : { kind: 'found', vehicle: value }
}
