import { v4 as uuid } from 'uuid'
import { cylinderFrom } from '~/cylinders/fields'
import { type Refused, refuse, type Typed } from '~/base/form/check'
import { currentOutbox } from './current'
import { makeEntry } from '~/tape/device'
import { systemFrom } from '~/systems/fields'
import type { Device } from '../known/device'
import type { Making } from '../room/making'
import { openDevice } from './page'

const NOTHING_KEPT =
  'No signal, and this device does not know the shop yet. What you typed stays: send it once the signal is back.'

/** A cylinder as the server would make it: the same questions, the same refusals. */
export function cylinderMaking(device: Device, typed: Typed): Refused | { making: Making } {
  const at = Date.now()
  const { preferences, person, customers } = device.pack
  const { units } = preferences
  const read = cylinderFrom(typed, { units }, device.today(at), device.pack.shop.fillMarginPct)
  if (read.refused) return read.refused
  const taken = device.cylinders.some(
    (each) => !each.retired && each.label.toLowerCase() === read.data.label.toLowerCase(),
  )
  if (taken)
    return refuse(typed, { label: 'Another cylinder in use has this label already: give this one its own.' })
  const id = typed.cylinderId!
  const { ownerCustomerId } = read.data
  const row = {
    ...read.data,
    cylinderId: id,
    version: 1,
    balanceMg: read.contentsMg,
    offMg: 0,
    weighedAt: null,
    retired: false,
    reservedMg: 0,
    owner: customers.find((each) => each.customerId === ownerCustomerId)?.name ?? null,
  }
  return { making: { kind: 'cylinder', id, userId: person.userId, typed, units, at, row } }
}

/** Makes it on this device. @returns why not, or its id */
export async function makeCylinder(typed: Typed): Promise<Refused | { id: string }> {
  const device = await openDevice()
  if (!device) return refuse(typed, { label: NOTHING_KEPT })
  const made = cylinderMaking(device, typed)
  if ('errors' in made) return made
  await currentOutbox()?.make(made.making)
  return { id: made.making.id }
}

/** The same of a system; where it was added from a job, that job has it. */
export async function makeSystem(typed: Typed): Promise<Refused | { id: string }> {
  const device = await openDevice()
  if (!device) return refuse(typed, { name: NOTHING_KEPT })
  const { units } = device.pack.preferences
  const read = systemFrom(typed, { units })
  if (read.refused) return read.refused
  const { data, customer, site, altitudeM } = read.value
  const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase()
  const known = device.pack.sites.find((each) => same(each.customer, customer) && same(each.name, site))
  const owner = device.pack.customers.find((each) => same(each.name, customer))
  const id = typed.systemId!
  await currentOutbox()?.make({
    kind: 'system',
    id,
    typed,
    units,
    at: Date.now(),
    row: {
      ...data,
      // What was printed is kept beside what it was taken for.
      plateText: data.plateText || (typed.plate ?? '').trim(),
      systemId: id,
      version: 1,
      siteId: known?.siteId ?? uuid(),
      site: known?.name ?? site,
      customer: owner?.name ?? customer,
      customerId: owner?.customerId ?? uuid(),
      altitudeM: altitudeM ?? known?.altitudeM ?? 0,
      plateJob: null,
      drive: '',
      balanceMg: 0,
    },
  })
  if (typed.jobId)
    void currentOutbox()?.put(typed.jobId, [
      makeEntry('job-described', {
        systemId: id,
        ...(data.refrigerant ? { refrigerant: data.refrigerant } : {}),
      }),
    ])
  return { id }
}
