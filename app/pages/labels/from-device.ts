import type { Device } from '~/device/known/device'
import { has, pageOf, sorted } from '~/device/known/lists'
import type { FromDevice } from '~/device/page/page'
import {
  labelSheet,
  type LabelSheet,
  labelWish,
  ofCylinder,
  ofKit,
  ofSystem,
  ON_A_SHEET,
  type What,
} from './sheet'

const ALL: Record<What, (device: Device) => ReturnType<typeof ofCylinder>[]> = {
  cylinders: ({ cylinders }) => cylinders.filter((each) => !each.retired).map(ofCylinder),
  systems: ({ pack }) => pack.systems.map(ofSystem),
  kit: ({ pack }) => pack.kit.map(ofKit),
}

export const labels: FromDevice<LabelSheet> = (device, { search }) => {
  const wish = labelWish(search)
  const all = sorted(
    ALL[wish.what](device),
    ({ name }) => name.toLowerCase(),
    ({ id }) => id,
  )
  const asked = wish.ids.length > 0 ? all.filter(({ id }) => wish.ids.includes(id)) : undefined
  const fitting = all.filter(
    ({ name, beside }) =>
      !wish.from || has(name, wish.from) || (wish.what === 'systems' && has(beside, wish.from)),
  )
  return labelSheet(wish, {
    labels: asked ?? pageOf(fitting, wish.page, ON_A_SHEET),
    count: (asked ?? fitting).length,
    shop: device.pack.shop.name,
    origin: device.pack.origin,
  })
}
