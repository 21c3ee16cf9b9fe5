import { Button, Form } from 'react-bootstrap'
import { type GasVerdict, judgeGas, markFor, type RecoveredGas } from '#core/recovery'
import { airBrought, airIn, gasAt, gasIsFoul, machineIsClean, stepDone } from '#core/tape'
import { draft } from '~/tape/draft'
import { VerdictCard } from '~/words/verdict/verdict-card'
import { CONDITION_WORDS, inSentence } from '~/words/en'
import { useJob } from '../field/job-context'
import type { JobCylinder } from '~/job-data/data'

/** Less than this in it is nothing that the new gas could be spoilt by, mg. */
const NOTHING_MG = 50_000

/** May what came out go back? Of each cylinder that took some, with what would decide it. */
export function GasVerdicts() {
  const { state, cylinderOf } = useJob()
  const took = [
    ...new Set(state.transfers.filter((each) => each.use === 'recover').map((each) => each.cylinderId)),
  ]
  const cylinders = took.flatMap((id) => cylinderOf(id) ?? [])
  if (cylinders.length === 0) return null
  return (
    <section className="stack" aria-label="May the gas go back?">
      <h3 className="mb-0">May the gas go back?</h3>
      <Tests />
      {cylinders.map((cylinder) => (
        <OfCylinder key={cylinder.cylinderId} cylinder={cylinder} />
      ))}
    </section>
  )
}

/** What nobody can see from outside. */
function Tests() {
  const { state, note, closed } = useJob()
  const acid = state.gasTests.findLast((each) => each.test === 'acid')
  const burnt = stepDone(state, 'compressor-burnt')
  const test = (passed: boolean) => note([draft('gas-tested', { test: 'acid', passed })])
  return (
    <div className="row-of">
      <Form.Check
        id="compressor-burnt"
        label="The compressor burnt or seized"
        checked={burnt}
        disabled={closed || burnt}
        onChange={() => note([draft('step-done', { step: 'compressor-burnt' })])}
      />
      <div className="btn-group" role="group" aria-label="Acid test">
        <Button
          variant="outline-primary"
          active={acid?.passed === true}
          disabled={closed}
          onClick={() => test(true)}
        >
          Acid test: none
        </Button>
        <Button
          variant="outline-primary"
          active={acid?.passed === false}
          disabled={closed}
          onClick={() => test(false)}
        >
          Acid found
        </Button>
      </div>
    </div>
  )
}

function OfCylinder({ cylinder }: { cylinder: JobCylinder }) {
  const { state, note, closed } = useJob()
  const verdict = useGas(cylinder)
  const mark = markFor(verdict)
  const noted = state.gas[cylinder.cylinderId]
  return (
    <div>
      <p className="mb-1">
        <strong>{cylinder.label}</strong>
      </p>
      <VerdictCard verdict={verdict}>
        {noted && (
          <p className="mb-0 mt-1">
            Marked: <strong>{inSentence(CONDITION_WORDS[noted])}</strong>
          </p>
        )}
        {verdict.code === 'gas-measure-first' && !closed && <Settle verdict={verdict} />}
        {mark && mark !== noted && !closed && (
          <div className="mt-1">
            <Button
              variant={noted ? 'outline-primary' : 'primary'}
              onClick={() =>
                note([draft('gas-judged', { cylinderId: cylinder.cylinderId, condition: mark })])
              }
            >
              Mark {cylinder.label}: {inSentence(CONDITION_WORDS[mark])}
            </Button>
          </div>
        )}
      </VerdictCard>
    </div>
  )
}

/** What a word settles. */
const SETTLES: [reason: GasVerdict['reasons'][number]['code'], step: string, words: string][] = [
  ['hoses-not-purged', 'purged-hoses', 'Hoses were purged'],
  ['machine-not-known', 'rig-drier', 'Machine was purged of its last gas'],
]

/** What settles it: a word on hoses and machine, or a gauge and a clamp on the cylinder at rest. */
function Settle({ verdict }: { verdict: GasVerdict }) {
  const { note, openStage } = useJob()
  return (
    <div className="row-of mt-1">
      {SETTLES.filter(([reason]) => verdict.reasons.some(({ code }) => code === reason)).map(
        ([reason, step, words]) => (
          <Button key={reason} variant="outline-primary" onClick={() => note([draft('step-done', { step })])}>
            {words}
          </Button>
        ),
      )}
      <Button variant="outline-primary" onClick={() => openStage('prepare')}>
        Measure it at rest
      </Button>
    </div>
  )
}

const AGAINST = { 'drawn-by-leak': 'air-drawn-in', 'not-purged': 'hoses-not-purged' } as const

function useGas(cylinder: JobCylinder): GasVerdict {
  const { state, data } = useJob()
  const { cylinderId, beforeMg, condition, refrigerant, ownerCustomerId } = cylinder
  const filled = beforeMg > NOTHING_MG
  const last = state.transfers.findLast((each) => each.use === 'recover')
  const { isMeasured, share } = airIn(state, cylinderId)
  const gas: Omit<RecoveredGas, 'wasInIt'> = {
    unmeasured: isMeasured
      ? []
      : [
          ...airBrought(state).map((each) => AGAINST[each]),
          ...(machineIsClean(state) ? [] : (['machine-not-known'] as const)),
        ],
    purged: stepDone(state, 'self-purged', last?.startedAt) || state.episodes.some((each) => each.keptMg > 0),
    acid: acidOf(state.gasTests),
    compressorFailed:
      stepDone(state, 'compressor-burnt') || state.parts.some(({ part }) => part === 'compressor'),
    airShare: share,
    mixed:
      condition === 'mixed' ||
      gasIsFoul(state) ||
      (filled && refrigerant !== null && last !== undefined && refrigerant !== gasAt(state, last.startedAt)),
    owner: !data.system
      ? 'unknown'
      : !filled || ownerCustomerId === data.system.customerId
        ? 'same'
        : 'other',
  }
  if (!filled) return judgeGas({ ...gas, wasInIt: 'nothing' })
  // A mark that this job set for something amiss in its own gas was not there before; any other was, or still says why.
  const own = judgeGas({ ...gas, wasInIt: 'used' })
  const isOwnMark = state.gas[cylinderId] === condition && markFor(own) === condition
  return isOwnMark ? own : judgeGas({ ...gas, wasInIt: condition })
}

function acidOf(tests: readonly { test: string; passed: boolean }[]): boolean | undefined {
  const last = tests.findLast((each) => each.test === 'acid')
  return last && !last.passed
}
