import { KIT_KINDS } from '#core/kit'
import type { KitRow } from '#db'
import { has, pageOf, sorted } from '~/device/known/lists'
import type { FromDevice } from '~/device/page/page'
import type { PieceData } from './piece-data'
import { KIT_PAGE, type KIT_SORTS, type KitListData, kitWish } from './list-data'

const BY: Record<(typeof KIT_SORTS)[number], (row: KitRow) => string | number | null> = {
  kind: (row) => KIT_KINDS.indexOf(row.kind),
  label: (row) => row.label.toLowerCase(),
  keepsAt: (row) => row.keepsAt.toLowerCase(),
  dueOn: (row) => row.dueOn,
}

export const kitList: FromDevice<KitListData> = (device, { at, search }) => {
  const wished = kitWish(search)
  const { filter, wish } = wished
  // What is in use is taken along.
  if (filter.state !== 'in-use') return undefined
  const fitting = device.kit.filter(
    ({ kind, keepsAt, label }) =>
      (!filter.kind || kind === filter.kind) &&
      (!filter.keepsAt || keepsAt.toLowerCase() === filter.keepsAt.toLowerCase()) &&
      (!filter.label || has(label, filter.label)),
  )
  return {
    kit: pageOf(
      sorted(fitting, BY[wish.sort], (row) => row.label, wish.down),
      wish.number,
      KIT_PAGE,
    ),
    count: fitting.length,
    places: device.pack.places,
    ...wished,
    pages: Math.max(1, Math.ceil(fitting.length / KIT_PAGE)),
    ahead: fitting.filter(({ kitId }) => device.ahead.has(kitId)).map(({ kitId }) => kitId),
    today: device.today(at),
    mayWrite: device.mayWrite,
  }
}

export const piece: FromDevice<PieceData, { kitId: string }> = (device, { params, at, unknownThere }) => {
  const row = device.kit.find((each) => each.kitId === params.kitId.toLowerCase())
  if (!row || unknownThere) return undefined
  return {
    piece: row,
    // What was done with it: of that the server has the list.
    record: null,
    ahead: device.ahead.has(row.kitId),
    today: device.today(at),
    timeZone: device.pack.shop.timeZone,
    mayWrite: device.mayWrite,
  }
}
