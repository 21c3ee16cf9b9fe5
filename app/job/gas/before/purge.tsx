import { Button } from 'react-bootstrap'
import { stepDone } from '#core/tape'
import { draft } from '~/tape/draft'
import { useJob } from '~/job/field/job-context'

/** The air out of the hoses: from the high pressure towards the cylinder. Both ways are right; which one is noted. */
export function Purge() {
  const { state, note, closed } = useJob()
  const joint = stepDone(state, 'purged-joint-by-joint')
  const done = joint || stepDone(state, 'purged-hoses')
  return (
    <div className="purge">
      <strong>Air out of the hoses</strong>{' '}
      <span className="quiet">
        From the high pressure towards the cylinder, the least possible; then the tare, not before.
      </span>
      <div className="row-of">
        {done ? (
          <span role="status">{joint ? 'Purged joint by joint.' : 'Purged, all at once.'}</span>
        ) : (
          !closed && (
            <>
              <Button
                variant="outline-primary"
                onClick={() => note([draft('step-done', { step: 'purged-hoses' })])}
              >
                All at once, 3 to 4 s
              </Button>
              <Button
                variant="outline-primary"
                onClick={() => note([draft('step-done', { step: 'purged-joint-by-joint' })])}
              >
                Joint by joint
              </Button>
              <span className="quiet">Not yet: air that goes into the cylinder spoils all of it.</span>
            </>
          )
        )}
      </div>
    </div>
  )
}
