import { readVin } from '#core/vehicles'
import { asked } from '~/base/form/search'
import { overLimit } from '~/base/session/rate.server'
import { writer } from '~/base/session/signed-in.server'
import { askVehicle, type VehicleAnswer } from '~/systems/vehicle-data/ask.server'
import type { Route } from './+types/vehicle-data'

/** What the outside service knows of a vehicle; asked by a person who may write, and not too often. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { person } = writer(context)
  const limited = await overLimit('VEHICLE_DATA', person.userId)
  if (limited) return Response.json({ kind: 'unreachable' } satisfies VehicleAnswer)
  const search = new URL(request.url).searchParams
  const read = readVin(asked(search, 'vin', 40))
  const registration = asked(search, 'registration', 40)
  const answer = await askVehicle({
    ...(read.kind !== 'malformed' && { vin: read.vin }),
    ...(registration && { registration }),
  })
  return Response.json(answer)
}
