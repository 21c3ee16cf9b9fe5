import { addDays, format } from 'date-fns'
import { hash } from '@node-rs/argon2'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import {
  addApiToken,
  addCylinder,
  addPerson,
  addSystem,
  apiTokens,
  bookArrival,
  changeShop,
  customerNamed,
  foundShop,
  inShop,
  siteNamed,
} from '#db'
import { CYLINDERS } from './cylinders'
import { idFor } from './ids'
import { loadJobs } from './jobs'
import { loadActs, loadKit } from './kit'
import { loadRigs } from './rigs'
import { loadStations } from './stations'
import { SITES, SYSTEMS } from './systems'

/** A token for programs, once; `./keg demo` prints it. */
export async function loadToken(token: string, now: Date): Promise<void> {
  const tokenId = idFor('api token')
  await inShop(idFor('shop'), async (tx) => {
    if ((await apiTokens(tx)).some((known) => known.tokenId === tokenId)) return
    await addApiToken(tx, token, {
      tokenId,
      name: 'Demo',
      scopes: ['calc', 'cylinders'],
      madeBy: idFor('mara'),
      at: now,
    })
  })
}

export const PASSWORD = 'keep-it-cold'

const PEOPLE = [
  { signIn: 'mara', name: 'Mara Ostrand', role: 'manager', units: METRIC_UNITS, van: 'Shop' },
  { signIn: 'teo', name: 'Teo Villand', role: 'technician', units: METRIC_UNITS, van: 'Van 1' },
  { signIn: 'ines', name: 'Ines Karrow', role: 'technician', units: US_UNITS, van: 'Van 2' },
  { signIn: 'jonah', name: 'Jonah Peelwick', role: 'technician', units: METRIC_UNITS, van: 'Van 1' },
  { signIn: 'bo', name: 'Bo Larkwell', role: 'trainee', units: METRIC_UNITS, van: '' },
] as const

/**
 * A made-up harbour co-operative: its people, rack, systems and a year of jobs, the same each time.
 * @returns the gateway's file
 */
export async function loadHarbour(now: Date): Promise<object> {
  const shopId = idFor('shop')
  const yearAgo = addDays(now, -400)
  const passwordHash = await hash(PASSWORD)
  await inShop(shopId, async (tx) => {
    const name = 'Lanternquay Cold Co-operative'
    await foundShop(tx, { shopId, name, timeZone: 'Europe/Lisbon', at: yearAgo })
    const heading = 'Lanternquay Cold Co-operative, Slipway 3, the harbour'
    await changeShop(tx, { name, heading, timeZone: 'Europe/Lisbon', fillMarginPct: 0, sampleDays: 30 })
    for (const { signIn, name, role, units, van } of PEOPLE)
      await addPerson(tx, {
        userId: idFor(signIn),
        signIn,
        name,
        role,
        passwordHash,
        preferences: { units, van },
        at: yearAgo,
      })
    for (const { customer, site, altitudeM = 4 } of SITES) {
      const customerId = await customerNamed(tx, { customerId: idFor(customer), name: customer, at: yearAgo })
      await siteNamed(tx, {
        siteId: idFor(`${customer}/${site}`),
        customerId,
        name: site,
        altitudeM,
        at: yearAgo,
      })
    }
    for (const { key, site, ...data } of SYSTEMS)
      await addSystem(tx, idFor(key), { ...data, siteId: idFor(site) }, yearAgo)
    await loadKit(tx, yearAgo)
    for (const { testedDaysAgo, openingMg, owner, arrival, ...data } of CYLINDERS) {
      const cylinderId = idFor(data.label)
      const testedOn = testedDaysAgo === null ? null : format(addDays(now, -testedDaysAgo), 'yyyy-MM-dd')
      await addCylinder(
        tx,
        cylinderId,
        {
          ...data,
          testedOn,
          ownerCustomerId: owner ? idFor(owner) : null,
          ratioGas: data.fillingRatio === null ? null : data.refrigerant,
          workingFillPct: null,
        },
        yearAgo,
      )
      if (openingMg > 0)
        await bookArrival(tx, {
          kind: arrival,
          voucherId: idFor(`${data.label} arrival`),
          cylinderId,
          massMg: openingMg,
          at: addDays(now, -390),
          now: addDays(now, -390),
          userId: idFor('mara'),
          text: arrival === 'purchase' ? 'Harbour stores, delivery note' : '',
        })
    }
  })
  await loadJobs(shopId, now)
  const devices = [...(await loadRigs(shopId, now)), ...(await loadStations(shopId, now))]
  await inShop(shopId, (tx) => loadActs(tx, now))
  return { server: 'http://127.0.0.1:4600', spool: 'gateway', devices }
}
