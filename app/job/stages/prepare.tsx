import { useState } from 'react'
import { expectedIn } from '#core/tape'
import { Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { REFRIGERANTS, refrigerant as factsOf } from '#core/refrigerants'
import { SystemPicker } from '~/device/page/system-picker'
import { draft } from '~/tape/draft'
import { Value } from '~/base/ui/reader'
import { AtRest } from '../gas/before/at-rest'
import { Identifier } from '../gas/before/identifier'
import { PlanRecovery } from '../gas/before/plan'
import { Purge } from '../gas/before/purge'
import { RigCheck } from '../gas/before/rig-check'
import { ShutInQuestion } from '../gas/before/shut-in'
import { useJob } from '../field/job-context'
import { UseKit } from '../kit/use-kit'
import { CylinderChoice } from '../transfer/cylinder-choice'
import { StepList } from '../field/step-list'

/** Which gas, which system, what should be in it, and a cylinder in which it fits. */
export function Prepare() {
  const { data, state, closed } = useJob()
  const expected = expectedIn(data, state)
  const vehicle = data.system?.trade === 'vehicle'
  return (
    <>
      {!closed && <Describe />}
      <ShutInQuestion />
      <div className="side-by-side">
        {expected ? <Expected /> : <NoPlate />}
        <StepList steps={vehicle ? ['gas-identified'] : ['locked-out', 'gas-identified']} />
      </div>
      {vehicle && <Identifier />}
      <UseKit />
      {state.refrigerant && !closed && (
        <CylinderChoice use="recover" wantedMg={expected ? expected.massMg : null} />
      )}
      <AtRest />
      <PlanRecovery />
      <RigCheck />
      <Purge />
    </>
  )
}

function Describe() {
  const { data, state, note } = useJob()
  const facts = state.refrigerant ? factsOf(state.refrigerant) : undefined
  return (
    <div className="form-grid">
      <Form.Group className="field">
        <Form.Label htmlFor="job-refrigerant">Refrigerant</Form.Label>
        <Form.Select
          id="job-refrigerant"
          value={state.refrigerant ?? ''}
          disabled={state.transfers.length > 0}
          onChange={(event) => note([draft('job-described', { refrigerant: event.target.value || null })])}
        >
          <option value="">Not known yet</option>
          {REFRIGERANTS.map((code) => (
            <option key={code}>{code}</option>
          ))}
        </Form.Select>
        {facts && (
          <div className="field-help">
            {facts.safetyClass}, GWP {Math.round(facts.gwp)}
            {facts.flammable && ': flammable'}
          </div>
        )}
      </Form.Group>
      {!data.system && <ChooseSystem />}
      <TitleField />
    </div>
  )
}

function ChooseSystem() {
  const { data, state, note } = useJob()
  return (
    <SystemPicker
      offered={data.systems}
      value={state.systemId ?? ''}
      onChoose={(system) =>
        system &&
        note([
          draft('job-described', {
            systemId: system.systemId,
            refrigerant: state.refrigerant ?? system.refrigerant,
          }),
        ])
      }
      help={
        <>
          Not in the list? <Link to={`/systems/new?job=${data.jobId}`}>Add it</Link>, plate and customer with
          it.
        </>
      }
    />
  )
}

function TitleField() {
  const { state, note } = useJob()
  const [title, setTitle] = useState(state.title)
  const save = () => {
    if (title.trim() !== state.title) note([draft('job-described', { title: title.trim() })])
  }
  return (
    <Form.Group className="field">
      <Form.Label htmlFor="job-title">What the job is</Form.Label>
      <Form.Control
        id="job-title"
        value={title}
        maxLength={200}
        placeholder="Compressor noisy, oil at the flare"
        onChange={(event) => setTitle(event.target.value)}
        onBlur={save}
      />
    </Form.Group>
  )
}

function Expected() {
  const { data, state } = useJob()
  const expected = expectedIn(data, state)!
  return (
    <div>
      <div className="quiet">Should be in it</div>
      <div className="hero">
        <Value kind="weight" of={expected.massMg} />
      </div>
      <div className="quiet">
        give or take <Value kind="weight" of={2 * expected.sigmaMg} />
      </div>
      <ul className="mb-0 mt-1">
        {expected.parts.map((part, i) => (
          <li key={i}>
            {
              {
                plate: 'Plate',
                line: 'Line',
                accessory: 'Accessory',
                'panel-total': 'Total written in the panel',
              }[part.what]
            }
            {part.name && ` ${part.name}`}: <Value kind="weight" of={part.massMg} />
          </li>
        ))}
        {expected.unknown.map((name) => (
          <li key={name} className="field-error">
            What the {name} holds cannot be computed for this gas: it is not in the sum, so there is no
            verdict on over or under. Enter it as an accessory if the maker tells it.
          </li>
        ))}
        {expected.insteadOfMg !== undefined && (
          <li className="quiet">
            Plate, lines and accessories would make <Value kind="weight" of={expected.insteadOfMg} />: the
            total in the panel counts.
          </li>
        )}
      </ul>
    </div>
  )
}

function NoPlate() {
  const { data } = useJob()
  return (
    <p className="mb-0 quiet">
      {data.system ? (
        <>
          No plate is known for this system. You can go on without: there will be no verdict on over or under.{' '}
          <Link to={`/systems/${data.system.systemId}/change`}>Enter the plate</Link>
        </>
      ) : (
        'Without a system there is no plate to compare with. You can go on and fill it in later.'
      )}
    </p>
  )
}
