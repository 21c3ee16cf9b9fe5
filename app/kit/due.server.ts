import { addDays, addMonths, format, parseISO } from 'date-fns'
import { testDate } from '#core/cylinders'
import { FILTER_SOON, filterUsed } from '#core/kit'
import { euCheckRule } from '#core/leaks'
import { tableOf } from '#core/refrigerants'
import { expectedCharge } from '#core/systems'
import { MG_PER_KG } from '#core/units'
import {
  cylindersTestDue,
  dueKit,
  dueRechecks,
  jobsAgainstTheBooks,
  leaksLookedFor,
  leftOffItems,
  type ShopTx,
  systemsOf,
} from '#db'
import { ACT_WORDS } from '~/words/en'

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
 * pressure tests of cylinders, systems to look at again, leak checks that the law asks for, what was left off, what stands against the books; of each no more than the first `most`. A filter has no day: nearly used up it stands at today.
 */
export async function dueItems(tx: ShopTx, today: string, days: number, most = MOST): Promise<DueItem[]> {
  const upTo = format(addDays(parseISO(today), days), 'yyyy-MM-dd')
  const [kit, cylinders, rechecks, leftOff, against, legal] = await Promise.all([
    dueKit(tx, upTo, FILTER_SOON, most),
    cylindersTestDue(tx, upTo, most),
    dueRechecks(tx, upTo, most),
    leftOffItems(tx, most),
    jobsAgainstTheBooks(tx, most),
    legalChecks(tx, today, upTo),
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
  for (const { jobId, number, name, what, because, on } of leftOff)
    items.push({
      id: `${jobId}-off-${what}`,
      to: `/jobs/${jobId}`,
      label: name,
      what: `Left off: ${what}`,
      how: [
        `Job ${number} left it off, because ${because}.`,
        'Put it back, and tick it off there under Repair.',
      ],
      on,
      overdue: true,
    })
  for (const { jobId, number, name, on } of against)
    items.push({
      id: `${jobId}-against`,
      to: `/jobs/${jobId}`,
      label: name,
      what: 'Done without signal, against the books',
      how: [
        `Job ${number} says what it was, and what is to be done about it.`,
        'Compare labels and weights, then say there how it was.',
      ],
      on,
      overdue: true,
    })
  items.push(...legal)
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

/**
 * Leak checks that the law asks for by what a system holds: counted from when leaks were last looked for there. Where the books
 * know of no look, or not what is in it, nothing is said.
 */
async function legalChecks(tx: ShopTx, today: string, upTo: string): Promise<DueItem[]> {
  const looked = await leaksLookedFor(tx)
  const systems = await systemsOf(
    tx,
    looked.map((each) => each.systemId),
  )
  return systems.flatMap((system): DueItem[] => {
    const { systemId, name, refrigerant } = system
    const at = looked.find((each) => each.systemId === systemId)?.at
    if (!refrigerant || !at) return []
    const chargeMg = expectedCharge(system, tableOf(refrigerant))?.massMg
    const rule = chargeMg === undefined ? undefined : euCheckRule(refrigerant, chargeMg / MG_PER_KG)
    if (rule?.everyMonths === undefined) return []
    const on = format(addMonths(at, rule.everyMonths), 'yyyy-MM-dd')
    if (on > upTo) return []
    return [
      {
        id: `${systemId}-leak-check`,
        to: `/systems/${systemId}`,
        label: name,
        what: `Leak check, every ${rule.everyMonths} months`,
        how: [
          `EU 2024/573: ${rule.co2T.toFixed(1)} t CO₂e (AR4). Check the text in force where you work.`,
          `Leaks were last looked for on ${format(at, 'd MMM yyyy')}. Open a job there, search, and note it.`,
        ],
        on,
        overdue: on < today,
      },
    ]
  })
}
