import { v4 as uuid } from 'uuid'
import { REFRIGERANTS } from '#core/refrigerants'
import { byRoom, tileOf, TILES_SHOWN } from '~/cylinders/tile'
import { asked } from '~/base/form/search'
import { jobKit } from '~/kit/as-job-kit'
import type { Device } from '~/device/known/device'
import type { FromDevice } from '~/device/page/page'
import { choiceOf, SYSTEMS_SHOWN } from '~/systems/choice'
import type { NewJobData } from './data'

let ids: Pick<NewJobData, 'jobId' | 'runId' | 'newId'> | undefined

/** The same as long as no job was begun with them: a page that is brought up to date stays the same page. */
function freshIds(device: Device) {
  if (!ids || device.job(ids.jobId)) ids = { jobId: uuid(), runId: uuid(), newId: uuid() }
  return ids
}

export const newJob: FromDevice<NewJobData> = (device, { at, search }) => {
  if (!device.mayWrite) return undefined
  const { pack } = device
  const today = device.today(at)
  const busy = device.busy()
  const system = device.systems.find(({ systemId }) => systemId === search.get('system'))
  return {
    ...freshIds(device),
    systems: device.systems.slice(0, SYSTEMS_SHOWN + 1).map(choiceOf),
    system: system ? choiceOf(system) : null,
    tiles: atHand(device)
      .map((row) => tileOf(row, today, pack.shop.fillMarginPct, device.ahead.has(row.cylinderId)))
      .sort(byRoom),
    scales: device.scales.map((row) => jobKit(row, today)),
    weighing: device.scales.map(({ kitId }) => kitId).filter((kitId) => busy.has(kitId)),
    // They speak by way of the server.
    live: [],
    van: pack.preferences.van,
    units: pack.preferences.units,
    refrigerants: REFRIGERANTS,
    marginPct: pack.shop.fillMarginPct,
    carried: { refrigerant: asked(search, 'refrigerant', 20), cylinder: asked(search, 'cylinder', 80) },
  }
}

function atHand(device: Device) {
  const wanted = new Map(device.pack.atHand.map((cylinderId, place) => [cylinderId, place]))
  return device.cylinders
    .filter((each) => wanted.has(each.cylinderId) && each.condition !== 'mixed')
    .sort((a, b) => wanted.get(a.cylinderId)! - wanted.get(b.cylinderId)!)
    .slice(0, TILES_SHOWN)
}
