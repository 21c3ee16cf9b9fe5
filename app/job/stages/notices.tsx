import { Button } from 'react-bootstrap'
import type { RecoveryEndKind } from '#core/recovery'
import {
  chargeKgOf,
  expectedIn,
  gasUnaccounted,
  type JobState,
  type Notice,
  type NoticeCode,
  notices,
} from '#core/tape'
import { draft } from '~/tape/draft'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { quantityText } from '~/words/verdict/said'
import { AIR_SOURCE_WORDS, NOTICE_WORDS } from '~/words/en'
import { useJob, useJudging } from '../field/job-context'
import type { JobData } from '~/job-data/data'

/** Said by the verdict on the wait, where one stands. */
const OF_THE_WAIT: NoticeCode[] = ['low-above-level', 'rebounds', 'rebounds-early']

/** What is noticed in what was noted, and what must be answered before it is forgotten. */
export function Notices({ waiting = false }: { waiting?: boolean }) {
  const { data, state } = useJob()
  const reading = useReadersUnits()
  const said = noticed(data, state).filter(({ code }) => !(waiting && OF_THE_WAIT.includes(code)))
  return (
    <>
      <AccountForGas />
      {said.map(({ code, numbers, why }) => (
        <p key={code} className="field-error mb-0" role="status">
          {NOTICE_WORDS[code]} ({numbers.map((each) => quantityText(each, reading)).join(', ')})
          {why && ` Likely ${why.map((each) => AIR_SOURCE_WORDS[each]).join(', or ')}.`}
        </p>
      ))}
    </>
  )
}

export function noticed(data: JobData, state: JobState): Notice[] {
  const expected = expectedIn(data, state)
  return notices(state, chargeKgOf(expected), data.system?.trade)
}

const ANSWERS: [how: RecoveryEndKind, words: string][] = [
  ['elsewhere', 'Recovered elsewhere'],
  ['lost', 'Lost'],
  ['shut-in', 'Shut into the outdoor unit'],
  ['never-filled', 'There was none: new, or evacuated'],
]

/** A deep vacuum, or an open circuit, while gas should still be in there: what became of it? */
export function AccountForGas() {
  const { state, note, closed } = useJob()
  const show = useShow()
  const asked = gasUnaccounted(state, useJudging())
  if (!asked) return null
  return (
    <div className="verdict verdict-caution" role="alert">
      <h3 className="mb-1">What became of the gas?</h3>
      <p className="mb-1">
        {asked.massMg > 0
          ? `${show('weight', asked.massMg)} should still be in the system`
          : 'Not all of it was recovered'}
        , and it is open or under a vacuum. The books wait for the answer.
      </p>
      {!closed && (
        <div className="row-of">
          {ANSWERS.map(([how, words]) => (
            // It was so before: what was tested since, and what is charged, is of the empty circuit.
            <Button
              key={how}
              variant="outline-primary"
              onClick={() => note([draft('recovery-ended', { how })], asked.since + 1)}
            >
              {words}
            </Button>
          ))}
        </div>
      )}
    </div>
  )
}
