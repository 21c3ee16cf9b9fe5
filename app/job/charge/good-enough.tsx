import { scaleForCharge } from '#core/charging'
import { kitAt } from '#core/tape'
import { useShow } from '~/base/ui/reader'
import { useJob } from '../field/job-context'

/** Is this scale good enough for this charge? */
export function GoodEnough() {
  const { state, cylinderOf } = useJob()
  const show = useShow()
  const scale = kitAt(state, ['scale', 'station'])
  const chosen = state.chosen.find((each) => each.use === 'charge')
  const cylinder = chosen && cylinderOf(chosen.cylinderId)
  const { toleranceMg } = state.target!
  const heaviestMg = (cylinder?.tareMg ?? 0) + (cylinder?.balanceMg ?? 0)
  const found = scaleForCharge(scale?.facts.divisionMg ?? null, heaviestMg, toleranceMg)
  const tells = `${scale?.label ?? 'An ordinary scale'} tells it to ± ${show('weight', Math.round(found.doubtMg))}`
  const wanted = show('weight', toleranceMg)
  if (found.goodEnough)
    return (
      <p className="mb-0 quiet">
        {tells}: good enough for ± {wanted}.
      </p>
    )
  return (
    <p className="mb-0 field-error" role="status">
      {tells} only, and ± {wanted} is wanted.{' '}
      {found.divisionMg === undefined
        ? 'No scale of the trade does that: take what it says as an estimate.'
        : `Take one that counts in ${show('weight', found.divisionMg)} or less.`}
    </p>
  )
}
