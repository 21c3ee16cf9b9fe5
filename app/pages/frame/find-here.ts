import { nearLabels } from '#core/cylinders'
import { asked } from '~/base/form/search'
import type { Device } from '~/device/known/device'
import { has, labelled } from '~/device/known/lists'
import { type Found, foundRows, OF_EACH, pageIn, toolsLike } from './found'

/** The finder without signal: what this device knows. */
export function findHere(device: Device, address: URLSearchParams): { search: string; found: Found[] } {
  const search = asked(address, 'q', 200)
  const page = pageIn(search)
  if (page) return { search, found: [page] }
  const tools = toolsLike(search)
  if (search === '') return { search, found: tools }
  const inUse = device.cylinders.filter((each) => !each.retired)
  const whole = labelled(inUse, search)
  const first = <T>(rows: readonly T[]) => rows.slice(0, OF_EACH)
  const rows = foundRows({
    cylinders: first(whole.length > 0 ? whole : nearLabels(inUse, search)),
    kit: first(labelled(device.kit, search)),
    systems: first(
      device.systems.filter(({ name, site, customer, registration, vin }) =>
        [name, site, customer, registration, vin].some((text) => has(text, search)),
      ),
    ),
    jobs: first(
      device
        .inHand()
        .filter(
          ({ title, system, number }) =>
            has(title, search) || has(system, search) || String(number) === search,
        ),
    ),
  })
  return { search, found: [...first(tools), ...rows] }
}
