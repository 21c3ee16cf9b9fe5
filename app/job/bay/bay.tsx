import { useEffect, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { leftOf, openTransfer, type Programme, runningProgramme } from '#core/tape'
import { clockTime } from '~/base/ui/time'
import { STEP_WORDS, STOP_WORDS, inSentence } from '~/words/en'
import { useJob } from '../field/job-context'
import { Plan } from './plan'
import { Running, Steps } from './running'

/** The service station of a vehicle's job: what it is at, how the last programme ended, and the next one. */
export function VehicleBay() {
  const { state, data, closed } = useJob()
  const running = runningProgramme(state)
  const last = state.programmes.at(-1)
  const [open, setOpen] = useState(false)
  const top = useRef<HTMLElement>(null)
  const runs = running !== undefined
  const ran = useRef(runs)
  // Begun from the foot of a long plan: what it asks for comes into sight.
  useEffect(() => {
    if (runs && !ran.current) {
      setOpen(false)
      top.current?.scrollIntoView({ block: 'start' })
    }
    ran.current = runs
  }, [runs])
  if (running)
    return (
      <section
        ref={top}
        className={running.asks ? 'sheet stack bay waits' : 'sheet stack bay'}
        aria-label="Programme"
      >
        <Running programme={running} />
      </section>
    )
  const may =
    !closed && state.status === 'open' && (data.bay?.stations.length ?? 0) > 0 && !openTransfer(state)
  if (!last && !may) return null
  const stopped = last?.ended && last.ended.how !== 'finished'
  return (
    <section className="sheet stack bay" aria-label="Programme">
      {last && <Ended programme={last} />}
      {may &&
        (open ? (
          <>
            <div className="spread">
              <h2 className="h3 mb-0">{stopped ? 'What is left' : 'Programme for a station'}</h2>
              <Button variant="outline-secondary" onClick={() => setOpen(false)}>
                Not now
              </Button>
            </div>
            <Plan />
          </>
        ) : (
          <div className="row-of">
            <Button
              className="btn-big"
              variant={last && !stopped ? 'outline-primary' : 'primary'}
              onClick={() => setOpen(true)}
            >
              {stopped ? 'Go on with what is left' : last ? 'Another programme' : 'Run it on a station'}
            </Button>
            {!last && (
              <span className="quiet">
                Recover, vacuum, hold, oil, charge: it calls when a hand is needed.
              </span>
            )}
          </div>
        ))}
    </section>
  )
}

function Ended({ programme }: { programme: Programme }) {
  const { state, data } = useJob()
  const { ended } = programme
  if (!ended) return null
  const { how, why, step, at } = ended
  const left = leftOf(programme, state)
  return (
    <div className="stack">
      <h2 className="h3 mb-0">
        {how === 'finished'
          ? 'The programme is through'
          : how === 'left-alone'
            ? 'The station was left alone'
            : `The programme stopped${step ? `: ${inSentence(STEP_WORDS[step])}` : ''}`}{' '}
        <span className="quiet">{clockTime(at, data.shop.timeZone)}</span>
      </h2>
      {why && (
        <p className="mb-0">
          <strong>{why === 'by-hand' ? 'Stopped by hand.' : `Why: ${STOP_WORDS[why].says}.`}</strong>{' '}
          {STOP_WORDS[why].next}
        </p>
      )}
      {how === 'left-alone' && (
        <p className="mb-0">What it had open is ended by hand: note the weight of its tank where it runs.</p>
      )}
      {how !== 'finished' && left.length > 0 && (
        <p className="mb-0 quiet">
          Left: {left.map((each) => inSentence(STEP_WORDS[each.step])).join(', ')}.
        </p>
      )}
      <details>
        <summary>Its steps</summary>
        <Steps programme={programme} />
      </details>
    </div>
  )
}
