import { v4 as uuid } from 'uuid'
import { testDate } from '#core/cylinders'
import { REFRIGERANTS } from '#core/refrigerants'
import type { CylinderRow, RackSort } from '#db'
import { seen } from '~/cylinders/condition'
import { plainDateDue } from '~/cylinders/due'
import { has, pageOf, sorted } from '~/device/known/lists'
import type { FromDevice } from '~/device/page/page'
import type { CylinderData, NewCylinderData } from './cylinder-data'
import { RACK_PAGE, type RackData, rackData, rackWish } from './rack-data'

const BY: Record<RackSort, (row: CylinderRow) => string | number | null> = {
  refrigerant: (row) => row.refrigerant,
  label: (row) => row.label.toLowerCase(),
  balance: (row) => row.balanceMg,
  keepsAt: (row) => row.keepsAt.toLowerCase(),
  testDue: (row) => testDate(row.testedOn, row.testYears, '', false).dueOn ?? null,
}

export const rack: FromDevice<RackData> = (device, { at, search }) => {
  const wished = rackWish(search)
  const { filter, wish, asList } = wished
  // Those that are retired only the server knows.
  if (filter.retired) return undefined
  const inUse = device.cylinders.filter((each) => !each.retired)
  const fitting = inUse.filter(
    ({ refrigerant, label }) =>
      (!filter.refrigerant || refrigerant === filter.refrigerant) &&
      (!filter.label || has(label, filter.label)),
  )
  const { sort, down } = asList ? wish : { sort: 'refrigerant' as const, down: false }
  return rackData(wished, {
    cylinders: pageOf(
      sorted(fitting, BY[sort], (row) => row.label, down),
      wish.number,
      RACK_PAGE,
    ),
    count: fitting.length,
    refrigerants: [...new Set(inUse.flatMap(({ refrigerant }) => refrigerant ?? []))].sort(),
    marginPct: device.pack.shop.fillMarginPct,
    today: device.today(at),
    mayWrite: device.mayWrite,
    ahead: device.ahead,
  })
}

export const cylinder: FromDevice<CylinderData, { cylinderId: string }> = (device, wish) => {
  const { params, at, unknownThere } = wish
  const row = device.cylinder(params.cylinderId.toLowerCase())
  if (!row || unknownThere) return undefined
  const today = device.today(at)
  return {
    cylinder: seen(row, device.pack.shop.fillMarginPct, today),
    dueOn: plainDateDue(row, today),
    // Every gram that went in or out: of that the server has the list.
    ledger: null,
    jobs: device.countingOn(row.cylinderId),
    judged: null,
    prepared: null,
    ahead: device.ahead.has(row.cylinderId),
    timeZone: device.pack.shop.timeZone,
    loadedAt: at,
    mayWrite: device.mayWrite,
  }
}

export const newCylinder: FromDevice<NewCylinderData> = ({ pack, mayWrite }) =>
  mayWrite
    ? { cylinderId: uuid(), voucherId: uuid(), refrigerants: REFRIGERANTS, customers: pack.customers }
    : undefined
