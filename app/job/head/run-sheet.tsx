import {
  type JobState,
  leakKnown,
  openPoints,
  recoveredEpisode,
  type Stage,
  STAGE_OF_POINT,
  STAGES,
  stageProgress,
} from '#core/tape'
import { StageIcon } from '~/base/ui/stage-icon'
import { useShow } from '~/base/ui/reader'
import { STAGE_WORDS, VERDICT_WORDS, wordOf } from '~/words/en'
import { useJob, useJudging } from '../field/job-context'

const SIGNS = { untouched: '·', begun: '…', done: '✓' }
const PROGRESS_WORDS = { untouched: 'not begun', begun: 'begun', done: 'done' }

/** The stages in their usual order, each with its key figure. Any may be opened at any time. */
export function RunSheet({ stage, open }: { stage: Stage; open: (stage: Stage) => void }) {
  const { state } = useJob()
  const key = useKeyFigure()
  const progress = stageProgress(state)
  const points = usePointsByStage()
  return (
    <nav className="run-sheet" aria-label="Stages">
      <p className="where">
        {STAGE_WORDS[stage]}, {STAGES.indexOf(stage) + 1} of {STAGES.length}
      </p>
      {STAGES.map((each) => (
        <button
          key={each}
          type="button"
          className={progress[each] === 'done' ? 'done' : undefined}
          aria-current={each === stage ? 'step' : undefined}
          onClick={() => open(each)}
        >
          <span className="sign" aria-hidden>
            {SIGNS[progress[each]]}
          </span>
          <span>
            <StageIcon stage={each} /> {STAGE_WORDS[each]}{' '}
            <span className="visually-hidden">({PROGRESS_WORDS[progress[each]]})</span>
            {(points[each] ?? 0) > 0 && <OpenCount count={points[each]!} />}
          </span>
          <span className="key">{key(each, state)}</span>
        </button>
      ))}
    </nav>
  )
}

const OpenCount = ({ count }: { count: number }) => (
  <span className="tag tag-amber">
    {count}
    <span className="visually-hidden"> open</span>
  </span>
)

/** Open points of the stages that were begun: what was never touched is not missing yet. */
function usePointsByStage(): Partial<Record<Stage, number>> {
  const { state } = useJob()
  const finished = state.status === 'closed' || state.status === 'cancelled'
  const open = openPoints(state, useJudging())
  // What was left open in a job that is finished stands on its tape, with the reason.
  const points = finished ? [] : open
  const progress = stageProgress(state)
  const counts: Partial<Record<Stage, number>> = {}
  for (const point of points) {
    const stage = STAGE_OF_POINT[point]
    if (progress[stage] !== 'untouched' || stage === 'close') counts[stage] = (counts[stage] ?? 0) + 1
  }
  return counts
}

function useKeyFigure() {
  const show = useShow()
  return (stage: Stage, state: JobState): string => {
    const verdict = (about: string) => state.verdicts.findLast((v) => v.about === about)?.verdict.code
    switch (stage) {
      case 'prepare':
        return state.refrigerant ?? ''
      case 'recover':
        return recoveredEpisode(state) ? show('weight', state.recoveredMg) : ''
      case 'evacuate': {
        const last = state.vacuum.at(-1)
        return last ? show('vacuum', last.value) : ''
      }
      case 'leak-test': {
        const last = state.leakChecks.at(-1)
        return leakKnown(state) ? 'leak known' : last ? (last.found ? 'repaired' : 'none found') : ''
      }
      case 'oil':
        return state.oil.noted ? `in ${show('volume', state.oil.inMl)}` : ''
      case 'charge':
        return state.chargedMg > 0
          ? show('weight', state.chargedMg)
          : state.target
            ? `target ${show('weight', state.target.massMg)}`
            : ''
      case 'verify':
        return wordOf(VERDICT_WORDS, verdict('readings') ?? '')
      default:
        return ''
    }
  }
}
