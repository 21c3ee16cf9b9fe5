import { redirect } from 'react-router'
import { refrigerantCode } from '#core/refrigerants'
import type { FromDevice } from '~/device/page/page'
import { toolNamed } from '~/slide-rule/tools'
import { toolGroups } from './groups'
import { tidyAddress, type ToolPage, toolPage } from './page'

const JOBS_OFFERED = 20

export const tools: FromDevice<{ groups: ReturnType<typeof toolGroups> }> = () => ({ groups: toolGroups() })

/** Worked out on this device: the same tool, the same tables, the same working. */
export const tool: FromDevice<ToolPage, { tool: string }> = (device, { params, search, at }) => {
  const asked = toolNamed(params.tool)
  if (!asked) return undefined
  const { pack } = device
  const reading = { units: pack.preferences.units }
  const tidied = tidyAddress(asked, search, reading)

  if (tidied !== undefined) throw redirect(tidied)
  const refrigerant = refrigerantCode(search.get('refrigerant') ?? '')
  const looks = asked.usesCylinders && [...search.keys()].some((key) => key.startsWith('charge'))
  const cylinders =
    looks && refrigerant
      ? device.cylinders.filter(
          (each) =>
            !each.retired &&
            (each.kind === 'recovery' || each.kind === 'station') &&
            (each.refrigerant === refrigerant || each.refrigerant === null),
        )
      : undefined
  const around = {
    reading,
    today: device.today(at),
    fillMarginPct: pack.shop.fillMarginPct,
    // In the order of the books: of several that fit alike the same is chosen.
    ...(cylinders && { cylinders: cylinders.sort((a, b) => (a.cylinderId < b.cylinderId ? -1 : 1)) }),
  }
  return toolPage(asked, search, around, {
    userId: pack.person.userId,
    mayWrite: device.mayWrite,
    jobs: () =>
      device
        .inHand()
        .slice(0, JOBS_OFFERED)
        .map(({ jobId, number, title, system }) => ({ jobId, number, title: title || (system ?? '') })),
  })
}
