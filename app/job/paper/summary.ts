import { addMonths } from 'date-fns'
import { co2EquivalentT, euCheckRule } from '#core/leaks'
import { refrigerant as factsOf } from '#core/refrigerants'
import {
  type FlagCode,
  inSystemNow,
  type JobState,
  type JudgingContext,
  leakKnown,
  massIn,
  movedInAll,
  standingVerdict,
  stepDone,
} from '#core/tape'
import { MG_PER_KG } from '#core/units'
import type { Say } from '~/words/tape/say'
import { FLAG_WORDS, PART_WORDS, VERDICT_WORDS, wordOf, inSentence } from '~/words/en'

/** What a customer reads first: what was found, what was done, what is in it now, and what comes next. */
export function summaryOf(state: JobState, judging: JudgingContext, show: Say['show']): string[] {
  const kg = (massMg: number) => show('weight', massMg)
  const said = (about: 'recovery' | 'hold' | 'charge' | 'readings') => {
    const given = standingVerdict(state, about, judging)
    return given?.stands ? wordOf(VERDICT_WORDS, given.verdict.code) : undefined
  }
  const lines: string[] = []
  const { outMg } = movedInAll(state)
  if (outMg > 0) {
    const verdict = said('recovery')
    const last = state.recoveredMg < outMg ? ` The last time ${kg(state.recoveredMg)}.` : ''
    lines.push(`${kg(outMg)} came out of the system.${last}${verdict ? ` ${verdict}.` : ''}`)
  }
  for (const change of state.gasChanges)
    lines.push(`The system was changed from ${change.from ?? 'another gas'} to ${change.to}.`)
  if (state.parts.length > 0)
    lines.push(`Renewed: ${state.parts.map((each) => inSentence(PART_WORDS[each.part])).join(', ')}.`)
  const search = searchIn(state)
  if (search) lines.push(search)
  const hold = said('hold')
  if (hold) lines.push(`Vacuum hold: ${inSentence(hold)}.`)
  const now = inSystemNow(state)
  const inIt = massIn(now)
  if (now.kind === 'empty') lines.push('The system is empty.')
  else if (now.kind === 'added' && now.massMg > 0)
    lines.push(
      `${kg(now.massMg)} of ${state.refrigerant ?? 'refrigerant'} was added. How much is in it now is not known: it was not emptied.`,
    )
  else if (inIt && (state.transfers.length > 0 || now.kind === 'weighed'))
    lines.push(
      `In the system now: ${kg(inIt.massMg)} of ${state.refrigerant ?? 'refrigerant'}, give or take ${kg(2 * inIt.sigmaMg)}.`,
    )
  const charge = said('charge')
  if (charge) lines.push(`${charge}.`)
  const readings = said('readings')
  if (readings) lines.push(`Running: ${inSentence(readings)}.`)
  if (stepDone(state, 'unit-taken-away')) lines.push('The unit was taken away.')
  for (const item of state.takenOff)
    if (item.leftOff !== undefined && item.backAt === undefined)
      lines.push(`Left off: ${item.what}, because ${item.leftOff}.`)
  return lines
}

/** Things that do not fit on the tape, in words: they belong on every copy. */
export const doubtsOf = (state: JobState): string[] => state.flags.map((flag: FlagCode) => FLAG_WORDS[flag])

export interface NextDate {
  on: Date
  what: string
}

/** What comes next, and by when. */
export function nextDates(state: JobState, judging: JudgingContext): NextDate[] {
  const dates: NextDate[] = []
  if (state.recheck)
    dates.push({ on: new Date(`${state.recheck.on}T12:00:00Z`), what: 'Look again for the slow leak' })
  // By what it is made to hold, from when leaks were looked for last: as the Bench reckons it.
  const chargeMg = judging.plate?.massMg ?? massIn(inSystemNow(state))?.massMg
  const lookedAt = state.leakChecks.at(-1)?.at
  if (!state.refrigerant || !chargeMg || lookedAt === undefined) return dates
  const chargeKg = chargeMg / MG_PER_KG
  const rule = euCheckRule(state.refrigerant, chargeKg)
  if (rule.everyMonths !== undefined) {
    const on = addMonths(lookedAt, rule.everyMonths)
    const tonnes = co2EquivalentT(chargeKg, factsOf(state.refrigerant).gwp).toFixed(1)
    dates.push({
      on,
      what: `Leak check, every ${rule.everyMonths} months by EU 2024/573 (${tonnes} t CO₂e, AR4); check the text in force where you work`,
    })
  }
  return dates
}

function searchIn(state: JobState): string | undefined {
  const last = state.leakChecks.at(-1)
  if (!last) return undefined
  const found = state.leakChecks.findLast((each) => each.found)
  if (!found) return 'A leak was looked for, and none was found.'
  if (leakKnown(state)) return 'A leak was found and is still open.'
  if (state.leakChecks.some((each) => each.falseAlarm && each.at >= found.at))
    return 'What looked like a leak was none.'
  return last.found
    ? 'A leak was found and repaired; it was not searched again.'
    : 'A leak was found and repaired; the search after it found none.'
}
