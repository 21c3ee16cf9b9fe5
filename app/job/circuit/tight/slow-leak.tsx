import { addDays, format, parseISO } from 'date-fns'
import { Button } from 'react-bootstrap'
import { canFind, FINDS_KG_PER_YEAR, recheckDays, slowLeak } from '#core/leaks'
import { expectedMass, judgeNow } from '#core/tape'
import { MG_PER_KG } from '#core/units'
import { draft } from '~/tape/draft'
import { useShow } from '~/base/ui/reader'
import { FINDS_BY_WORDS } from '~/words/en'
import { useJob, useJudging } from '~/job/field/job-context'

const DAY_MS = 86_400_000

/** What is missing, over the time since it was charged last: how large the leak is, and what can find it at all. */
export function SlowLeak() {
  const { data, state, note } = useJob()
  const judging = useJudging()
  const show = useShow()
  const verdict = judgeNow(state, 'recovery', judging)
  const expected = expectedMass(state, judging)
  const lost = verdict?.numbers.find(({ name }) => name === 'difference')
  const short = verdict?.code === 'less-than-expected' || verdict?.code === 'mostly-gone'
  const set = state.recheck
  if (!short || !expected || !lost || lost.value >= 0 || data.lastCharged === null)
    return set ? <p className="mb-0">To be looked at again on {set.on}.</p> : null
  const days = Math.max(1, Math.floor((state.openedAt - data.lastCharged) / DAY_MS))
  const chargeKg = expected.massMg / MG_PER_KG
  const { kgPerYear, share } = slowLeak(chargeKg, -lost.value, days)
  const by = canFind(kgPerYear)
  const on = format(addDays(parseISO(data.today), recheckDays(kgPerYear, chargeKg)), 'yyyy-MM-dd')
  return (
    <section className="verdict verdict-caution" aria-label="How large the leak is">
      <h3>
        About {show('weight', Math.round(kgPerYear * 100) * (MG_PER_KG / 100))} a year
        {share < 1 ? `, ${Math.round(100 * share)} % of the charge` : ', more than the whole charge'}
      </h3>
      <p className="mb-1">
        {show('weight', -lost.value * MG_PER_KG)} missing after {days} days, if it went all the while.{' '}
        {by.length > 0
          ? `What can find a leak of that size: ${by.map((each) => FINDS_BY_WORDS[each]).join(', ')}.`
          : `Too fine for any of them today: the best detector wants ${show('weight', FINDS_KG_PER_YEAR.detector * MG_PER_KG)} a year.`}
      </p>
      <p className="quiet mb-1">
        Orders of magnitude that the trade reckons with; a good detector’s own figure wins.
      </p>
      {set ? (
        <p className="mb-0">To be looked at again on {set.on}.</p>
      ) : (
        <Button
          variant="outline-primary"
          onClick={() =>
            note([draft('recheck-set', { on, reason: 'a tenth of the charge may be gone by then' })])
          }
        >
          Look again on {on}
        </Button>
      )}
    </section>
  )
}
