import { v4 as uuid } from 'uuid'
import { REFRIGERANTS } from '#core/refrigerants'
import { BORE_M } from '#core/systems'
import type { SystemRow } from '#db'
import { isId } from '~/base/form/id'
import { listWish } from '~/base/form/list'
import { asked } from '~/base/form/search'
import { has, pageOf, sorted } from '~/device/known/lists'
import type { FromDevice } from '~/device/page/page'
import {
  type NewSystemData,
  SYSTEM_PAGE,
  SYSTEM_SORTS,
  systemData,
  type SystemListData,
  type SystemPageData,
} from './system-data'

const BY: Record<(typeof SYSTEM_SORTS)[number], (row: SystemRow) => string | null> = {
  name: (row) => row.name.toLowerCase(),
  customer: (row) => row.customer.toLowerCase(),
  site: (row) => row.site.toLowerCase(),
  refrigerant: (row) => row.refrigerant,
}

export const systemList: FromDevice<SystemListData> = (device, { search: address }) => {
  const search = asked(address, 'search')
  const wish = listWish(address, SYSTEM_SORTS)
  const fitting = device.systems.filter(
    ({ name, site, customer, registration, vin }) =>
      !search || [name, site, customer, registration, vin].some((text) => has(text, search)),
  )
  const shown = pageOf(
    sorted(fitting, BY[wish.sort], ({ name }) => name, wish.down),
    wish.number,
    SYSTEM_PAGE,
  ).map(({ systemId }) => systemId)
  return {
    systems: shown.map((systemId) => device.system(systemId)!),
    ahead: shown.filter((systemId) => device.ahead.has(systemId)),
    count: fitting.length,
    search,
    wish,
    pages: Math.max(1, Math.ceil(fitting.length / SYSTEM_PAGE)),
    mayWrite: device.mayWrite,
  }
}

export const system: FromDevice<SystemPageData, { systemId: string }> = (device, wish) => {
  const row = device.system(wish.params.systemId.toLowerCase())
  if (!row || wish.unknownThere) return undefined
  return systemData({
    system: row,
    jobs: device.inHand().filter(({ systemId }) => systemId === row.systemId),
    past: null,
    ahead: device.ahead.has(row.systemId),
    timeZone: device.pack.shop.timeZone,
    loadedAt: wish.at,
    mayWrite: device.mayWrite,
  })
}

export const newSystem: FromDevice<NewSystemData> = (device, { search }) => {
  if (!device.mayWrite) return undefined
  const jobId = search.get('job') ?? ''
  const job = isId(jobId) ? device.job(jobId) : undefined
  const { customers, sites } = device.pack
  return {
    systemId: uuid(),
    entryId: uuid(),
    jobId: job ? jobId : '',
    refrigerant: job?.state.refrigerant ?? '',
    refrigerants: REFRIGERANTS,
    pipes: Object.keys(BORE_M),
    customers: customers.map(({ name }) => name),
    sites: [...new Set(sites.map(({ name }) => name))],
  }
}
