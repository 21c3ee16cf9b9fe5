import { checkResult } from '#core/tape'
import { Figures, Heroes } from '../verify/figures'
import { Further } from '../verify/further'
import { MachineStates } from '../verify/machine-states'
import { ReadingsForm } from '../verify/readings-form'
import { Runs } from '../verify/runs'
import { useRead } from '../verify/use-read'
import { useJob } from '../job-context'
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
