import { useState, useSyncExternalStore } from 'react'
import { Form } from 'react-bootstrap'
import { kitInUse } from '#core/tape'
import { weighs } from '#core/kit'
import { namedScale, scalesOf } from '~/kit/job-kit'
import { useJob } from '../field/job-context'
import { DivisionField, divisionOf } from '../field/division-field'

const SCALE_KEY = 'keg-scale'
const ANOTHER = 'another'

const never = () => () => {}
const remembered = () => localStorage.getItem(SCALE_KEY) ?? ''

/** Which scale the cylinder stands on: one of the job's kit, another of the shop's, or one that nobody has entered. */
export function useScaleChoice(notThis?: string) {
  const { data, state } = useJob()
  const inUse = kitInUse(state).filter((each) => weighs(each.kind))
  const own = scalesOf(data.kit).filter((each) => each.kitId !== notThis)
  const [picked, setPicked] = useState<string>()
  const lastName = useSyncExternalStore(never, remembered, () => '')
  const [name, setName] = useState<string>()
  const [division, setDivision] = useState('')
  const free = own.filter((each) => !data.busy.includes(each.kitId))
  const usual =
    free.find((each) => inUse.some((used) => used.kitId === each.kitId)) ??
    free.find((each) => each.label === lastName)
  const value = picked ?? usual?.kitId ?? ANOTHER
  const chosen = own.find((each) => each.kitId === value)
  const typedName = name ?? (notThis === undefined && usual === undefined ? lastName : '')
  return {
    own,
    value,
    setPicked,
    chosen,
    name: typedName,
    setName,
    division,
    setDivision,
    /** As an entry names it. */
    named: () => (chosen ? namedScale(chosen) : { scale: typedName.trim(), ...divisionOf(division) }),
    remember: () => localStorage.setItem(SCALE_KEY, chosen?.label ?? typedName.trim()),
    clear: () => {
      setName(undefined)
      setPicked(undefined)
    },
  }
}

export function ScaleChoice({ id, choice }: { id: string; choice: ReturnType<typeof useScaleChoice> }) {
  const { own, value, setPicked, chosen, name, setName, division, setDivision } = choice
  const { data } = useJob()
  const live = new Set(data.live.filter((each) => each.channel === 'weight').map((each) => each.kitId))
  return (
    <>
      {own.length > 0 && (
        <Form.Group className="field">
          <Form.Label htmlFor={`which-${id}`}>Scale</Form.Label>
          <Form.Select id={`which-${id}`} value={value} onChange={(event) => setPicked(event.target.value)}>
            {own.map((each) => (
              <option key={each.kitId} value={each.kitId}>
                {each.label}
                {live.has(each.kitId) ? ', live' : ''}
                {each.failed ? ': failed its check' : each.keepsAt ? `, ${each.keepsAt}` : ''}
              </option>
            ))}
            <option value={ANOTHER}>another one</option>
          </Form.Select>
          {chosen && data.busy.includes(chosen.kitId) && (
            <div className="field-error">
              It weighs a cylinder of another job: what it shows is not yours.
            </div>
          )}
          {chosen?.failed && (
            <div className="field-error">
              It failed its last check: take another one, or weigh the cylinder again afterwards.
            </div>
          )}
        </Form.Group>
      )}
      {!chosen && (
        <>
          <Form.Group className="field">
            <Form.Label htmlFor={`scale-${id}`}>Which scale (may stay empty)</Form.Label>
            <Form.Control
              id={`scale-${id}`}
              value={name}
              maxLength={80}
              onChange={(event) => setName(event.target.value)}
            />
          </Form.Group>
          <DivisionField id={`division-${id}`} value={division} onChange={setDivision} />
        </>
      )}
    </>
  )
}
