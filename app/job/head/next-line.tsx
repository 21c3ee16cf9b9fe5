import { Button } from 'react-bootstrap'
import { nextStep, type Stage } from '#core/tape'
import { NEXT_WORDS, STAGE_OF_NEXT, STAGE_WORDS } from '~/words/en'
import { useJob, useJudging } from '../field/job-context'

/** The usual next step: a suggestion, with a way to it when another stage is open. */
export function NextLine({ stage, open }: { stage: Stage; open: (stage: Stage) => void }) {
  const { state } = useJob()
  const next = nextStep(state, useJudging())
  if (next === 'nothing') return null
  const where = STAGE_OF_NEXT[next]
  const words = next === 'wait' ? `Waiting for: ${state.waitingFor || 'nothing named'}` : NEXT_WORDS[next]
  return (
    <div className={where === stage ? 'next-line here' : 'next-line'}>
      <span>
        <strong>Next:</strong> {words}
      </span>
      {where !== stage && next !== 'wait' && (
        <Button variant="outline-primary" onClick={() => open(where)}>
          Open {STAGE_WORDS[where]}
        </Button>
      )}
    </div>
  )
}
