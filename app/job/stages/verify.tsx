import { checkResult } from '#core/tape'
import { Figures, Heroes } from '../check/figures'
import { Further } from '../check/further'
import { MachineStates } from '../check/machine-states'
import { ReadingsForm } from '../check/readings-form'
import { Runs } from '../check/runs'
import { useRead } from '../check/use-read'
import { useJob } from '../field/job-context'
import { VerdictOf } from '../verdict/verdict-of'

/** The check readings: pressures, temperatures, and what they say together. */
export function Verify() {
  const { state, closed } = useJob()
  const read = useRead()
  return (
    <>
      <Runs />
      <Heroes read={read} />
      {checkResult(state).outside && (
        <p className="field-error mb-0">
          A pressure lies outside the table of this refrigerant: above its critical point there is no
          subcooling. Check it, or the refrigerant.
        </p>
      )}
      <MachineStates />
      <VerdictOf about="readings" />
      <Figures read={read} />
      {!closed && <ReadingsForm read={read} />}
      <p className="quiet mb-0">
        Only what is noted after the last gas moved counts, and within 10 minutes of each other.
      </p>
      {!closed && <Further />}
    </>
  )
}
