import { nearLabels } from '#core/cylinders'
import { type Tile, tileOf } from '~/cylinders/tile'
import { asked } from '~/base/form/search'
import type { JobCylinder } from '~/job-data/data'
import { jobKit } from '~/kit/as-job-kit'
import type { JobKit } from '~/kit/job-kit'
import { choiceOf, type SystemChoice, SYSTEMS_SHOWN } from '~/systems/choice'
import type { Device } from './device'
import { has, labelled } from './lists'

// What the server answers beside pages, looked up in what a device knows.

const FOUND = 12

/** Those in use whose label is like what was typed, the likest first. */
function likeIt(device: Device, label: string) {
  const inUse = device.cylinders.filter((each) => !each.retired)
  const whole = labelled(inUse, label)
  return (whole.length > 0 || label === '' ? whole : nearLabels(inUse, label)).slice(0, FOUND)
}

export const cylindersLike = (device: Device, search: URLSearchParams): { cylinders: JobCylinder[] } => ({
  cylinders: likeIt(device, asked(search, 'label', 80)).map((row) => ({ ...row, beforeMg: row.balanceMg })),
})

export const tilesLike = (device: Device, search: URLSearchParams): { tiles: Tile[] } => ({
  tiles: likeIt(device, asked(search, 'label', 80))
    .filter(({ kind }) => kind === 'recovery' || kind === 'station')
    .map((row) =>
      tileOf(row, device.today(Date.now()), device.pack.shop.fillMarginPct, device.ahead.has(row.cylinderId)),
    ),
})

export const systemsLike = (device: Device, search: URLSearchParams): { systems: SystemChoice[] } => ({
  systems: device.systems
    .filter(({ name, site, customer, registration, vin }) =>
      [name, site, customer, registration, vin].some((text) => has(text, asked(search, 'search'))),
    )
    .slice(0, SYSTEMS_SHOWN)
    .map(choiceOf),
})

export const kitAtPlace = (device: Device, search: URLSearchParams): { kit: JobKit[] } => ({
  kit: device.kitIn(asked(search, 'place', 120)).map((row) => jobKit(row, device.today(Date.now()))),
})
