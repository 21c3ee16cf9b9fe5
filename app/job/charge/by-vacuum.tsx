import { chargeByVacuumKg } from '#core/charging'
import { refrigerant as factsOf, tableOf } from '#core/refrigerants'
import { innerVolume, openedAt } from '#core/tape'
import { MG_PER_KG } from '#core/units'
import { useShow } from '~/base/ui/reader'
import { useJob, useJudging } from '../field/job-context'
import type { OfferedSource } from '../moving/use-sources'

/** How much the vacuum draws by itself: a range, never one number. */
export function ByVacuum({ first, tempK }: { first: OfferedSource | undefined; tempK: number }) {
  const { state } = useJob()
  const judging = useJudging()
  const show = useShow()
  const volume = innerVolume(state, judging)
  const given = first?.gives
  if (!state.refrigerant || !volume || !given || openedAt(state) === undefined) return null
  const table = tableOf(state.refrigerant)
  const { molarMassG } = factsOf(state.refrigerant)
  const drawn = (systemM3: number) =>
    chargeByVacuumKg(
      { systemM3, systemK: tempK, cylinderK: tempK, availableKg: given.mostMg / MG_PER_KG },
      table,
      molarMassG,
    )
  const leastMg = Math.round(drawn(volume.least).leastKg * MG_PER_KG)
  const mostMg = Math.round(drawn(volume.most).mostKg * MG_PER_KG)
  const { massMg } = state.target!
  return (
    <p className="mb-0">
      By pressure alone{' '}
      <strong className="digits">
        {mostMg >= given.mostMg
          ? `${show('weight', leastMg)} at least, and up to all that it gives,`
          : `${show('weight', leastMg)} to ${show('weight', mostMg)}`}
      </strong>{' '}
      go in.{' '}
      {mostMg > massMg && 'That may be more than the target: watch the stop weight from the first second. '}
      {leastMg < massMg &&
        'Where it stops short: warm water for the cylinder, or run the system and meter the rest into suction.'}
    </p>
  )
}
