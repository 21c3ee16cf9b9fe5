import { useId, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import {
  PROGRAMME_STEPS,
  programmeProblems,
  programmeQuestions,
  programmeTakesS,
  type ProgrammeStep,
  STEP_FIGURES,
  type StepFigure,
} from '#core/programme'
import { expectedIn, isProved, leftOf, openedAt } from '#core/tape'
import { newId } from '~/tape/device'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits } from '~/base/ui/reader'
import { FIGURE_WORDS, PROBLEM_WORDS, BEFORE_IT_BEGINS, STEP_WORDS } from '~/words/en'
import { useJob } from '../field/job-context'
import { useWordsTyped } from '../field/use-figure'
import { type Draft, draftOf, stepsOf, TYPED } from './draft'
import { Presets } from './presets'
import { useStation } from './use-station'

/** Dye, and readings before the work, are chosen: the rest is what a service is. */
const NOT_USUAL: ReadonlySet<ProgrammeStep> = new Set<ProgrammeStep>(['dye', 'before'])

/** A programme for a station: which one, which steps, times and amounts; any step may be left out. */
export function Plan() {
  const { state, data } = useJob()
  const { draft, change, preset, setPreset } = useDraft()
  const { tell, busy, error } = useStation()
  const reading = useReadersUnits()
  const stations = data.bay?.stations ?? []
  const free = stations.filter((each) => !each.busyJob)
  const [kitId, setKitId] = useState('')
  const fits = free.find((each) => each.tankGas === state.refrigerant)
  const station = stations.find((each) => each.kitId === kitId) ?? fits ?? free[0] ?? stations[0]
  const { steps, wrong } = stepsOf(draft, reading)
  // What is in it was all put in by this job.
  const whole = state.episodes.at(-1)!.began === 'empty'
  const known = {
    emptied: openedAt(state) !== undefined || whole,
    inItMg: whole ? state.chargedMg : 0,
    fullMg: expectedIn(data, state)?.massMg ?? state.target?.massMg ?? null,
    dyed: state.dyed || data.dyedAt !== null,
  }
  const problem = wrong ? undefined : programmeProblems(steps, known)[0]
  const question = wrong || problem ? undefined : programmeQuestions(steps, isProved(state))[0]
  const [asked, setAsked] = useState(false)
  // Pressed again, where no answer came, it is the same one.
  const [programmeId] = useState(newId)
  if (!station) return null
  const begin = (allTheSame = false) => {
    setAsked(true)
    if (wrong || problem || (question && !allTheSame)) return
    const sent = {
      programmeId,
      kitId: station.kitId,
      steps,
      ...(preset && { preset }),
      ...(question && { allTheSame: [question] }),
    }
    void tell('begin', { sent: JSON.stringify(sent) })
  }
  return (
    <div className="stack">
      <div className="key-grid" role="group" aria-label="Station">
        {stations.map((each) => (
          <Button
            key={each.kitId}
            variant={each.kitId === station.kitId ? 'primary' : 'outline-primary'}
            aria-pressed={each.kitId === station.kitId}
            onClick={() => setKitId(each.kitId)}
          >
            {each.label}{' '}
            <span className="d-block">
              {each.busyJob
                ? `at job ${each.busyNumber}`
                : `${each.tankGas ?? 'no gas'}${each.standIn ? ', simulated' : ''}`}
            </span>
          </Button>
        ))}
      </div>
      {station.tankGas !== null && state.refrigerant !== null && station.tankGas !== state.refrigerant && (
        <p className="field-error mb-0">
          The tank of {station.label} holds {station.tankGas}, this vehicle {state.refrigerant}: choose
          another station.
        </p>
      )}
      <Presets
        chosen={preset}
        steps={steps}
        unreadable={wrong !== undefined}
        choose={(chosen) => {
          setPreset(chosen.name)
          change(draftOf(chosen.steps, chargeOf(data, state), reading))
        }}
      />
      <ol className="bay-steps">
        {PROGRAMME_STEPS.map((step) => (
          <StepRow
            key={step}
            step={step}
            draft={draft}
            change={(own) => change({ ...draft, [step]: { ...draft[step], ...own } })}
            wrong={asked && wrong?.step === step ? wrong.figure : undefined}
            problem={asked && problem?.step === step ? PROBLEM_WORDS[problem.code] : undefined}
          />
        ))}
      </ol>
      {asked && problem?.step === null && <p className="field-error mb-0">{PROBLEM_WORDS[problem.code]}</p>}
      {asked && question && (
        <p className="field-error mb-0" role="alert">
          {BEFORE_IT_BEGINS[question]}
        </p>
      )}
      {error && (
        <p className="field-error mb-0" role="alert">
          {error}
        </p>
      )}
      <div className="row-of">
        <Button className="btn-big" disabled={busy || station.busyJob !== null} onClick={() => begin()}>
          Begin on {station.label}
        </Button>
        {asked && question && (
          <Button variant="outline-danger" disabled={busy} onClick={() => begin(true)}>
            Begin all the same
          </Button>
        )}
        {!wrong && (
          <span className="quiet">
            about {Math.round(programmeTakesS(steps) / 60)} min, if hands are there at once
          </span>
        )}
      </div>
    </div>
  )
}

type JobParts = ReturnType<typeof useJob>

/** What has to go in, as far as anybody has said: the target, else the plate. */
const chargeOf = (data: JobParts['data'], state: JobParts['state']) =>
  state.target?.massMg ?? expectedIn(data, state)?.massMg

/** What is planned: kept while it is not begun. It opens on what another programme left, else on what is usual. */
function useDraft() {
  const { state, data } = useJob()
  const reading = useReadersUnits()
  const last = state.programmes.at(-1)
  const [text, setText] = useWordsTyped(`bay-${state.programmes.length}`)
  const [preset, setPreset] = useWordsTyped(`bay-preset-${state.programmes.length}`)
  const bottleId = ownBottle(data)
  const usual = PROGRAMME_STEPS.filter((step) => !NOT_USUAL.has(step)).map((step) => ({
    step,
    ...(step === 'oil-in' && bottleId && { bottleId }),
  }))
  const left = last?.ended && last.ended.how !== 'finished' ? leftOf(last, state) : undefined
  const fresh = draftOf(left ?? usual, chargeOf(data, state), reading)
  return {
    draft: kept(text) ?? fresh,
    change: (draft: Draft) => setText(JSON.stringify(draft)),
    preset,
    setPreset,
  }
}

/** The one bottle of oil that stands beside a station and is what this system takes; undefined: none, or several. */
function ownBottle({ bay, system }: JobParts['data']): string | undefined {
  const places = new Set(bay?.stations.map((each) => each.keepsAt))
  const takes = (system?.oilType ?? '').toLowerCase()
  const fit = (bay?.bottles ?? []).filter(
    ({ contents, keepsAt, label, oilType }) =>
      contents === 'oil' &&
      places.has(keepsAt) &&
      (takes === '' || label.toLowerCase() === takes || takes.includes((oilType ?? '?').toLowerCase())),
  )
  return fit.length === 1 ? fit[0]!.kitId : undefined
}

function kept(text: string): Draft | undefined {
  try {
    const draft = JSON.parse(text) as Draft
    return PROGRAMME_STEPS.every((step) => typeof draft[step]?.texts === 'object') ? draft : undefined
  } catch {
    return undefined
  }
}

interface StepRowProps {
  step: ProgrammeStep
  draft: Draft
  change: (own: Partial<Draft[ProgrammeStep]>) => void
  wrong: StepFigure | undefined
  problem: string | undefined
}

function StepRow({ step, draft, change, wrong, problem }: StepRowProps) {
  const { data, state } = useJob()
  const id = useId()
  const { on, texts, bottleId } = draft[step]
  const figures = STEP_FIGURES[step].filter((figure) => TYPED[figure] !== undefined)
  const contents = step === 'dye' ? 'dye' : 'oil'
  const bottles = (data.bay?.bottles ?? []).filter((each) => each.contents === contents)
  const takesBottle = step === 'oil-in' || step === 'dye'
  return (
    <li className={on ? 'on' : undefined}>
      <Form.Check id={id} checked={on} label={STEP_WORDS[step]} onChange={() => change({ on: !on })} />
      {on && (figures.length > 0 || takesBottle) && (
        <div className="bay-figures">
          {figures.map((figure) => (
            <Figure
              key={figure}
              step={step}
              figure={figure}
              text={texts[figure] ?? ''}
              change={(text) => change({ texts: { ...texts, [figure]: text } })}
              wrong={wrong === figure}
            />
          ))}
          {takesBottle && (
            <Form.Select
              aria-label={`${STEP_WORDS[step]}, from`}
              value={bottleId ?? ''}
              onChange={(event) => change({ bottleId: event.target.value })}
            >
              <option value="">which bottle?</option>
              {bottles.map((each) => (
                <option key={each.kitId} value={each.kitId}>
                  {each.label}
                </option>
              ))}
            </Form.Select>
          )}
        </div>
      )}
      {on && step === 'oil-in' && (
        <span className="quiet">
          {draft['oil-out'].on
            ? 'And as much as comes out.'
            : 'What comes out is not read, and not put back.'}
        </span>
      )}
      {on && step === 'recover' && <span className="quiet">Down to 102 mmHg below the air around.</span>}
      {on && step === 'charge' && (
        <span className="quiet">
          15 % first, the vents sniffed, then the rest; engine off,{' '}
          {(state.drive ?? data.system?.drive) === 'high-voltage'
            ? 'through the port that its maker names.'
            : 'high side.'}
        </span>
      )}
      {problem && <span className="field-error">{problem}</span>}
    </li>
  )
}

interface FigureProps {
  step: ProgrammeStep
  figure: StepFigure
  text: string
  change: (text: string) => void
  wrong: boolean
}

function Figure({ step, figure, text, change, wrong }: FigureProps) {
  const kind = TYPED[figure]!
  const label = `${STEP_WORDS[step]}, ${FIGURE_WORDS[figure]}`
  if (kind !== 'minutes' && kind !== 'percent')
    return (
      <MeasureInput
        kind={kind}
        label={FIGURE_WORDS[figure]}
        value={text}
        onChange={change}
        error={wrong ? 'Say how much.' : undefined}
      />
    )
  return (
    <Form.Group className="field">
      <Form.Label>{FIGURE_WORDS[figure]}</Form.Label>
      <Form.Control
        aria-label={label}
        inputMode="decimal"
        value={text}
        maxLength={8}
        onChange={(event) => change(event.target.value)}
        isInvalid={wrong}
      />
      {wrong && <span className="field-error">{PROBLEM_WORDS['out-of-range']}</span>}
    </Form.Group>
  )
}
