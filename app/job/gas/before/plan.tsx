import { useId } from 'react'
import { Button, Form } from 'react-bootstrap'
import { type CylinderPort, type EndLevelUse, type HoseSize, methodsFor } from '#core/recovery'
import { glideK, refrigerant as factsOf, tableOf } from '#core/refrigerants'
import {
  chargeKgOf,
  expectedIn,
  type JobState,
  kitAt,
  levelUse,
  type RecoveryPlan,
  stepDone,
} from '#core/tape'
import { ZERO_CELSIUS_K } from '#core/units'
import { draft } from '~/tape/draft'
import { LEVEL_USE_WORDS, METHOD_WORDS, inSentence } from '~/words/en'
import { useJob } from '~/job/field/job-context'
import { Foreseen } from './foreseen'
import { Method } from './method'

/** A blend whose parts boil more than so far apart is drawn as liquid, K. */
const GLIDE_K = 1

/** Which way it is pulled, through which rig, how long it takes, and where it is down: proposed, and chosen by a tap. */
export function PlanRecovery() {
  const { state, note, closed } = useJob()
  const { methods, plan, set } = usePlan()
  if (!state.refrigerant) return null
  const chosen = methods.find((each) => each.method === plan.method) ?? methods[0]!
  return (
    <details className="plan">
      <summary>
        <strong>Plan:</strong> {inSentence(METHOD_WORDS[chosen.method])}, {plan.port} port, {plan.hose} in
        hoses, cores {plan.coresOut ? 'out' : 'in'}{' '}
        <span className="quiet">{state.plan ? 'noted' : 'proposed: look, and change what is otherwise'}</span>
      </summary>
      <div className="stack">
        <Foreseen plan={plan} />
        <PlanQuestions />
        <div className="plan-methods" role="radiogroup" aria-label="Which way">
          {methods.map((each) => (
            <Method
              key={each.method}
              choice={each}
              proposed={each === methods[0]}
              checked={each.method === chosen.method}
              disabled={closed}
              choose={() => set({ method: each.method })}
            />
          ))}
        </div>
        <div className="plan-rig">
          <Pick
            label="Cylinder port"
            value={plan.port}
            options={[
              ['vapour', 'Vapour'],
              ['liquid', 'Liquid'],
            ]}
            disabled={closed}
            choose={(port: CylinderPort) => set({ port })}
            why="By the vapour port nothing is pushed through the dip tube and what lies there: cooler and faster. By the liquid port it works too."
          />
          <Pick
            label="Hoses"
            value={plan.hose}
            options={[
              ['1/4', '1/4 in'],
              ['3/8', '3/8 in'],
              ['1/2', '1/2 in'],
            ]}
            disabled={closed}
            choose={(hose: HoseSize) => set({ hose })}
            why="Short and wide is faster, and holds more."
          />
          <Pick
            label="Valve cores"
            value={plan.coresOut ? 'out' : 'in'}
            options={[
              ['out', 'Out'],
              ['in', 'In'],
            ]}
            disabled={closed}
            choose={(cores: 'out' | 'in') => set({ coresOut: cores === 'out' })}
            why="A core left in is the tightest restriction in the rig."
          />
          <Pick
            label="Down by the rule for"
            value={plan.level}
            options={(Object.keys(LEVEL_USE_WORDS) as EndLevelUse[]).map((use) => [
              use,
              LEVEL_USE_WORDS[use],
            ])}
            disabled={closed}
            choose={(level: EndLevelUse) => set({ level })}
          />
        </div>
        {!closed && !state.plan && (
          <div>
            <Button variant="outline-primary" onClick={() => note([draft('recovery-planned', plan)])}>
              Note this plan
            </Button>
          </div>
        )}
      </div>
    </details>
  )
}

/** What is planned, or proposed from what is known. */
function usePlan() {
  const { state, data, note, cylinderOf } = useJob()
  const machine = kitAt(state, ['machine', 'station'])
  const expected = expectedIn(data, state)
  const gas = state.refrigerant ? factsOf(state.refrigerant) : undefined
  const into = state.chosen.find((each) => each.use === 'recover')
  const cylinder = into && cylinderOf(into.cylinderId)
  const methods = methodsFor({
    compressorRuns: compressorRuns(state),
    keepOil: stepDone(state, 'oil-stays'),
    chargeKg: chargeKgOf(expected) ?? undefined,
    machineTakesLiquid: machine?.facts.takesLiquid !== false,
    glide: state.refrigerant ? glides(state.refrigerant) : false,
    flammable: gas?.flammable ?? false,
    vehicle: data.system?.trade === 'vehicle',
    cylinderEmpty: cylinder ? cylinder.refrigerant === null || cylinder.balanceMg < 100_000 : false,
  })
  const plan: RecoveryPlan = state.plan ?? {
    method: methods[0]!.method,
    port: 'vapour',
    hose: '1/4',
    coresOut: true,
    level: levelUse(state, data.system?.trade ?? 'stationary'),
  }
  const set = (over: Partial<RecoveryPlan>) => note([draft('recovery-planned', { ...plan, ...over })])
  return { methods, plan, set }
}

/** The last word of somebody who tried it; undefined: nobody has said. */
function compressorRuns({ steps }: Pick<JobState, 'steps'>): boolean | undefined {
  const said = steps.findLast(({ step }) => step === 'compressor-runs' || step === 'compressor-stands')
  return said && said.step === 'compressor-runs'
}

/** At the temperature of a cold room, which all blends have in their tables. */
const glides = (refrigerant: string) => glideK(tableOf(refrigerant), ZERO_CELSIUS_K) > GLIDE_K

/** What a plan goes by, as far as it is not on the plate. */
function PlanQuestions() {
  const { state, note, closed } = useJob()
  const runs = compressorRuns(state)
  const oil = stepDone(state, 'oil-stays')
  const water = stepDone(state, 'water-cooled')
  const say = (step: string) => note([draft('step-done', { step })])
  return (
    <div className="row-of plan-questions">
      <span>Its compressor</span>
      <div className="btn-group" role="group" aria-label="Its compressor">
        <Button
          variant="outline-primary"
          active={runs === true}
          disabled={closed || runs === true}
          onClick={() => say('compressor-runs')}
        >
          runs
        </Button>
        <Button
          variant="outline-primary"
          active={runs === false}
          disabled={closed || runs === false}
          onClick={() => say('compressor-stands')}
        >
          does not run
        </Button>
      </div>
      <Form.Check
        id="oil-stays"
        label="The oil is to stay inside"
        checked={oil}
        disabled={closed || oil}
        onChange={() => say('oil-stays')}
      />
      <Form.Check
        id="water-cooled"
        label="Water-cooled condenser"
        checked={water}
        disabled={closed || water}
        onChange={() => say('water-cooled')}
      />
      {water && (
        <span className="quiet w-100">
          Keep its water moving or drain it, and take liquid first: boiling refrigerant freezes and splits it.
        </span>
      )}
    </div>
  )
}

interface PickProps<T extends string> {
  label: string
  value: T
  options: [T, string][]
  disabled: boolean
  choose: (value: T) => void
  why?: string
}

function Pick<T extends string>({ label, value, options, disabled, choose, why }: PickProps<T>) {
  const id = useId()
  return (
    <Form.Group className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      <Form.Select
        id={id}
        value={value}
        disabled={disabled}
        onChange={(event) => choose(event.target.value as T)}
      >
        {options.map(([code, words]) => (
          <option key={code} value={code}>
            {words}
          </option>
        ))}
      </Form.Select>
      {why && <div className="field-help">{why}</div>}
    </Form.Group>
  )
}
