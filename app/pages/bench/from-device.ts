import { addDays, format, parseISO } from 'date-fns'
import type { CylinderRow } from '#db'
import { testDate } from '#core/cylinders'
import type { FromDevice } from '~/device/page/page'
import type { DueItem } from '~/kit/due.server'
import { type BenchData, benchData, DUE_DAYS, DUE_SHOWN } from './data'

const IN_HAND_SHOWN = 25
const LATELY_SHOWN = 5
const MOST_AMISS = 20
const SOON_DAYS = 30

export const bench: FromDevice<BenchData> = (device, { at }) => {
  const { pack } = device
  const today = device.today(at)
  const ahead = device.aheadJobs()
  const own = new Set(ahead.map(({ jobId }) => jobId))
  const upTo = inDays(today, DUE_DAYS)
  const closed = ahead.map((job) => device.summary(job)).filter(({ status }) => status === 'closed')
  return benchData({
    jobs: device.inHand().slice(0, IN_HAND_SHOWN),
    lately: [...closed, ...pack.lately.filter(({ jobId }) => !own.has(jobId))].slice(0, LATELY_SHOWN),
    cylinders: toLookAt(device.cylinders, today),
    stock: stockOf(device.cylinders),
    due: dueOn(pack.due, today)
      .filter(({ on }) => on <= upTo)
      .slice(0, DUE_SHOWN + 1),
    // What went on when it was taken along; a job of this device says it better itself.
    running: pack.running.filter(({ jobId }) => !own.has(jobId)),
    programmes: pack.programmes,
    loadedAt: at,
    today,
    marginPct: pack.shop.fillMarginPct,
    timeZone: pack.shop.timeZone,
    mayWrite: device.mayWrite,
  })
}

export const due: FromDevice<{ due: DueItem[] }> = (device, { at }) => ({
  due: dueOn(device.pack.due, device.today(at)),
})

/** Its day may have passed since it was taken along. */
const dueOn = (items: readonly DueItem[], today: string): DueItem[] =>
  items.map((each) => ({ ...each, overdue: each.overdue || each.on < today }))

const inDays = (today: string, days: number) => format(addDays(parseISO(today), days), 'yyyy-MM-dd')

function stockOf(cylinders: readonly CylinderRow[]): BenchData['stock'] {
  const held = new Map<string | null, BenchData['stock'][number]>()
  for (const { refrigerant, balanceMg, retired } of cylinders) {
    if (retired) continue
    const known = held.get(refrigerant) ?? { refrigerant, cylinders: 0, massMg: 0 }
    held.set(refrigerant, {
      refrigerant,
      cylinders: known.cylinders + 1,
      massMg: known.massMg + balanceMg,
    })
  }
  // By code as the books sort them; what has no gas yet comes last.
  return [...held.values()].sort((a, b) =>
    a.refrigerant === null ? 1 : b.refrigerant === null ? -1 : a.refrigerant < b.refrigerant ? -1 : 1,
  )
}

/** As the books choose them: the fullest, those amiss, and those whose test runs out. */
function toLookAt(all: readonly CylinderRow[], today: string): CylinderRow[] {
  const cylinders = all.filter((each) => !each.retired)
  const ours = cylinders.filter(({ kind }) => kind === 'recovery' || kind === 'station')
  const share = ({ balanceMg, waterCapacityMg }: CylinderRow) =>
    waterCapacityMg === null ? 0 : balanceMg / waterCapacityMg
  const mixed = ({ condition }: CylinderRow) => Number(condition === 'mixed')
  const soon = inDays(today, SOON_DAYS)
  const dueOf = (c: CylinderRow) => testDate(c.testedOn, c.testYears, today, false).dueOn ?? ''
  const chosen = [
    ...ours
      .filter((each) => share(each) > 0.3)
      .sort((a, b) => share(b) - share(a))
      .slice(0, MOST_AMISS),
    ...cylinders
      .filter(
        (c) => c.condition === 'doubtful' || c.condition === 'mixed' || c.balanceMg < 0 || c.offMg !== 0,
      )
      .sort((a, b) => mixed(b) - mixed(a) || b.balanceMg - a.balanceMg)
      .slice(0, MOST_AMISS),
    ...cylinders
      .filter((each) => each.kind !== 'one-way' && dueOf(each) < soon)
      .sort((a, b) => (dueOf(a) < dueOf(b) ? -1 : 1))
      .slice(0, MOST_AMISS),
  ]
  return [...new Map(chosen.map((each) => [each.cylinderId, each])).values()]
}
