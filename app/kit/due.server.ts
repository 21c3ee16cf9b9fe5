import { addDays, format, parseISO } from 'date-fns'
import { testDate } from '#core/cylinders'
import { FILTER_SOON, filterUsed } from '#core/kit'
import { cylindersTestDue, dueKit, dueRechecks, type ShopTx } from '#db'
import { ACT_WORDS } from '~/wording/en'

/** Something that should be done with kit or a cylinder. */
export interface DueItem {
  id: string
  to: string
  label: string
  /** What should be done. */
  what: string
  /** How, in two lines. */
  how: [string, string]
  /** From this day on, `2026-11-26`. */
  on: string
  overdue: boolean
}

const TEST_HOW: [string, string] = [
  'Emptied, to a test station; its valve is looked at there, too.',
  'Enter the new stamp under Cylinders. Until then it may not be filled.',
]
/** Of kit and of cylinders, each. */
const MOST = 100

/**
 * Everything that is due up to some days from now, the earliest first: checks, oil, opened bottles and filters of kit,
 * pressure tests of cylinders, systems to look at again; of each no more than the first `most`. A filter has no day: nearly used up it stands at today.
 */
export async function dueItems(tx: ShopTx, today: string, days: number, most = MOST): Promise<DueItem[]> {
  const upTo = format(addDays(parseISO(today), days), 'yyyy-MM-dd')
  const [kit, cylinders, rechecks] = await Promise.all([
    dueKit(tx, upTo, FILTER_SOON, most),
    cylindersTestDue(tx, upTo, most),
    dueRechecks(tx, upTo, most),
  ])
  const items = kit.flatMap((piece): DueItem[] => {
    const found: DueItem[] = []
    const common = { to: `/kit/${piece.kitId}`, label: piece.label }
    if (piece.dueOn && piece.dueWhat && piece.dueOn <= upTo)
      found.push({
        ...common,
        id: `${piece.kitId}-${piece.dueWhat}`,
        what: ACT_WORDS[piece.dueWhat].due,
        how: ACT_WORDS[piece.dueWhat].how,
        on: piece.dueOn,
        overdue: piece.dueOn <= today,
      })
    const used = filterUsed(piece.facts, piece.passedMg)
    if (used !== null && used >= FILTER_SOON)
      found.push({
        ...common,
        id: `${piece.kitId}-filter`,
        what: `${ACT_WORDS['filter-fitted'].due}: ${Math.round(100 * used)} % used`,
        how: ACT_WORDS['filter-fitted'].how,
        on: today,
        overdue: used >= 1,
      })
    return found
  })
  for (const { jobId, number, system, on } of rechecks)
    items.push({
      id: `${jobId}-recheck`,
      to: `/jobs/${jobId}`,
      label: system,
      what: 'Look again for the slow leak',
      how: [
        `Job ${number} set this day: the leak was too slow to be found then.`,
        'Read the pressures, search with a detector; open a new job there.',
      ],
      on,
      overdue: on < today,
    })
  for (const { cylinderId, label, kind, testedOn, testYears } of cylinders) {
    const { dueOn } = testDate(testedOn, testYears, today, kind === 'one-way')
    if (dueOn)
      items.push({
        id: `${cylinderId}-test`,
        to: `/cylinders/${cylinderId}`,
        label,
        what: 'Pressure test of the cylinder',
        how: TEST_HOW,
        on: dueOn,
        overdue: dueOn < today,
      })
  }
  return items.sort((a, b) => a.on.localeCompare(b.on) || a.label.localeCompare(b.label))
}
