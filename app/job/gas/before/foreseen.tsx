import { expectedDuration } from '#core/recovery'
import { refrigerant as factsOf, tableOf } from '#core/refrigerants'
import { chargeKgOf, expectedIn, kitAt, levelHere, type RecoveryPlan } from '#core/tape'
import { MG_PER_KG, STANDARD_ATMOSPHERE_PA, ZERO_CELSIUS_K } from '#core/units'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { minutesRange } from '~/base/ui/time'
import { LEVEL_RULE_WORDS, LEVEL_SOURCE } from '~/words/en'
import { useJob } from '~/job/field/job-context'

const ORDINARY_K = 25 + ZERO_CELSIUS_K

/** How long, and how far down. */
export function Foreseen({ plan }: { plan: RecoveryPlan }) {
  const { state, data } = useJob()
  const show = useShow()
  const { atmospherePa = STANDARD_ATMOSPHERE_PA } = useReadersUnits()
  const expected = expectedIn(data, state)
  const trade = data.system?.trade ?? 'stationary'
  const level = levelHere(
    { ...state, plan: { ...plan, at: state.plan?.at ?? state.lastAt } },
    { chargeKg: chargeKgOf(expected), trade },
    atmospherePa,
  )!
  const ambientK = state.temperatureNotes.findLast((each) => each.point === 'ambient')?.value ?? ORDINARY_K
  const machine = kitAt(state, ['machine', 'station'])
  const took =
    expected &&
    expectedDuration(
      {
        chargeKg: expected.massMg / MG_PER_KG,
        liquidFirst: plan.method === 'liquid-then-vapour' || plan.method === 'both-sides',
        coresOut: plan.coresOut,
        hose: plan.hose,
        ambientK,
        levelPa: level.levelPa,
      },
      tableOf(state.refrigerant!),
      factsOf(state.refrigerant!).molarMassG,
      data.pastRuns,
    )
  return (
    <div className="gauge-row">
      <div>
        <div className="quiet">It takes about</div>
        <div className="big">
          {took ? minutesRange(took.seconds.least, took.seconds.most) : 'cannot be said'}
        </div>
        <div className="quiet">
          {!took
            ? 'Nobody knows how much is in it.'
            : took.runs >= 3
              ? `By the last ${took.runs} runs of ${machine?.label ?? 'this rig'}; waits come on top.`
              : `By the model, ${took.runs === 0 ? 'no run' : `only ${took.runs}`} of this rig is known yet; waits come on top.`}
        </div>
      </div>
      <div>
        <div className="quiet">Down to</div>
        <div className="big">{show('pressure', level.levelPa)}</div>
        <div className="quiet" title={LEVEL_SOURCE}>
          {LEVEL_RULE_WORDS[level.rule]}. {LEVEL_SOURCE}
        </div>
      </div>
    </div>
  )
}
