import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { askOrLook } from '~/device/page/ask-or-look'
import {
  chooseCylinders,
  type Fitness,
  type FitnessCode,
  type Intent,
  mayGive,
  mayTake,
  rankToTake,
} from '#core/cylinders'
import { gasIsFoul, type JobState, type Use } from '#core/tape'
import { draft } from '~/tape/draft'
import { useShow, Value } from '~/base/ui/reader'
import { CONDITION_WORDS, REASON_WORDS, inSentence } from '~/words/en'
import { useJob } from '../field/job-context'
import type { JobCylinder, JobData } from '~/job-data/data'

interface Candidate {
  cylinder: JobCylinder
  fitness: Fitness
}

const SHOWN = 4

const INTENTS: [Intent, string][] = [
  ['go-back', 'It goes back in'],
  ['keep', 'It is kept'],
]

/** Cylinders to choose from, ranked by what is to become of the gas; those that do not fit with the reason why not. */
export function CylinderChoice({ use, wantedMg }: { use: Use; wantedMg: number | null }) {
  const { state, note } = useJob()
  const [all, setAll] = useState(false)
  const [intent, setIntent] = useState<Intent>('go-back')
  const candidates = useCandidates(use, wantedMg, intent)
  const show = useShow()
  const chosen = state.chosen.filter((c) => c.use === use)
  const fitting = candidates.filter((c) => c.fitness.refusals.length === 0)
  const others = candidates.filter((c) => c.fitness.refusals.length > 0)
  const shown = all ? [...fitting, ...others] : fitting.slice(0, SHOWN)
  const together =
    use === 'recover' && fitting.length === 0 && chosen.length === 0
      ? shared(candidates, wantedMg)
      : undefined
  return (
    <div className="stack" style={{ gap: '0.5rem' }}>
      <div className="spread">
        <h3 className="mb-0">{use === 'recover' ? 'Cylinder to recover into' : 'Cylinder to charge from'}</h3>
        {wantedMg !== null && wantedMg > 0 && (
          <span className="quiet">
            for <Value kind="weight" of={wantedMg} />
          </span>
        )}
        {wantedMg === 0 && use === 'recover' && <span className="quiet">By the books nothing is in it.</span>}
      </div>
      {use === 'recover' && (
        <div className="row-of" role="group" aria-label="What becomes of the gas">
          {INTENTS.map(([code, words]) => (
            <Button
              key={code}
              variant={intent === code ? 'primary' : 'outline-secondary'}
              aria-pressed={intent === code}
              onClick={() => setIntent(code)}
            >
              {words}
            </Button>
          ))}
        </div>
      )}
      {chosen.map((c) => (
        <Chosen key={c.cylinderId} cylinderId={c.cylinderId} use={use} />
      ))}
      {together && (
        <div className="choice">
          <span className="name">
            <strong>{together.map(({ cylinder }) => cylinder.label).join(' and ')}</strong>{' '}
            <span className="quiet">
              together: {together.map(({ massMg }) => show('weight', massMg)).join(' and ')}, each keeps its
              share free
            </span>
          </span>
          <Button
            variant="outline-primary"
            onClick={() =>
              note(
                together.map(({ cylinder, massMg }) =>
                  draft('cylinder-chosen', { cylinderId: cylinder.cylinderId, use, massMg }),
                ),
              )
            }
          >
            Choose {together.length === 2 ? 'both' : 'all'}
          </Button>
        </div>
      )}
      {fitting.length === 0 && !together && (
        <p className="mb-0">
          {use === 'recover'
            ? 'No cylinder in the rack takes all of it. Look below for the reasons, plan two, or type the label of another.'
            : 'No cylinder in the rack has clean gas of this kind. Look below for the reasons, or type the label of another.'}
        </p>
      )}
      {shown
        .filter((c) => !chosen.some((known) => known.cylinderId === c.cylinder.cylinderId))
        .map((candidate) => (
          <Choice
            key={candidate.cylinder.cylinderId}
            candidate={candidate}
            use={use}
            choose={() =>
              note([
                draft('cylinder-chosen', {
                  cylinderId: candidate.cylinder.cylinderId,
                  use,
                  massMg: wantedMg,
                }),
              ])
            }
          />
        ))}
      <div className="row-of">
        {candidates.length > Math.min(SHOWN, fitting.length) && (
          <Button variant="outline-secondary" onClick={() => setAll(!all)}>
            {all ? 'Fewer' : `All ${candidates.length} of this gas, and why not`}
          </Button>
        )}
        <FindByLabel use={use} />
      </div>
    </div>
  )
}

/** What is only too little room for all of it does not keep a cylinder from taking a part. */
const ROOM_ONLY: FitnessCode[] = ['too-small', 'room-reserved']

/** The cylinders that take it together, the fewest, with what each is to take. */
function shared(
  candidates: Candidate[],
  wantedMg: number | null,
): { cylinder: JobCylinder; massMg: number }[] | undefined {
  if (wantedMg === null) return undefined
  const fit = candidates.filter(
    ({ fitness }) =>
      (fitness.roomMg ?? 0) > 0 && fitness.refusals.every(({ code }) => ROOM_ONLY.includes(code)),
  )
  const rooms = fit.map(({ cylinder, fitness }) => ({
    cylinder,
    cylinderId: cylinder.cylinderId,
    roomMg: fitness.roomMg!,
  }))
  let leftMg = wantedMg
  return chooseCylinders(rooms, wantedMg)?.map(({ cylinder, roomMg }) => {
    const massMg = Math.min(leftMg, roomMg)
    leftMg -= massMg
    return { cylinder, massMg }
  })
}

function Chosen({ cylinderId, use }: { cylinderId: string; use: Use }) {
  const { cylinderOf, note } = useJob()
  return (
    <div className="choice" style={{ borderColor: 'var(--keg-copper)', borderWidth: 2 }}>
      <span className="name">
        <strong>{cylinderOf(cylinderId)?.label ?? 'Cylinder'}</strong> is chosen
        {use === 'recover' && ', its room is kept free'}
      </span>
      <Button
        variant="outline-secondary"
        onClick={() => note([draft('cylinder-released', { cylinderId, use })])}
      >
        Release
      </Button>
    </div>
  )
}

function Choice({ candidate, use, choose }: { candidate: Candidate; use: Use; choose: () => void }) {
  const { cylinder, fitness } = candidate
  const show = useShow()
  const refused = fitness.refusals.length > 0
  const words = [...fitness.refusals, ...fitness.warnings].map((r) => REASON_WORDS[r.code])
  return (
    <div className={refused ? 'choice refused' : 'choice'}>
      <span className="name">
        <strong>{cylinder.label}</strong>{' '}
        <span className="quiet">
          {cylinder.refrigerant ?? 'empty'}, {inSentence(CONDITION_WORDS[cylinder.condition])},{' '}
          {use === 'recover' && fitness.roomMg !== undefined
            ? `room ${show('weight', Math.max(0, fitness.roomMg))}`
            : `holds ${show('weight', cylinder.balanceMg)}`}
          {cylinder.keepsAt && `, ${cylinder.keepsAt}`}
        </span>
      </span>
      {!refused && (
        <Button variant="outline-primary" onClick={choose}>
          Choose
        </Button>
      )}
      {words.length > 0 && <span className="why">{words.join(' ')}</span>}
    </div>
  )
}

function fitnessOf(
  cylinder: JobCylinder,
  use: Use,
  massMg: number | null,
  state: JobState,
  data: JobData,
): Fitness {
  const request = {
    refrigerant: state.refrigerant!,
    massMg,
    today: data.today,
    customerId: data.system?.customerId ?? null,
    marginPct: data.shop.marginPct,
    ownGasInIt: isOwn(cylinder.cylinderId, state),
    foul: gasIsFoul(state),
  }
  return use === 'recover' ? mayTake(cylinder, request) : mayGive(cylinder, request)
}

/** Whether this job has recovered into it. */
const isOwn = (cylinderId: string, state: JobState) =>
  state.transfers.some(
    (each) => each.use === 'recover' && each.cylinderId === cylinderId && each.amountMg > 0,
  )

function useCandidates(use: Use, wantedMg: number | null, intent: Intent): Candidate[] {
  const { data, state, cylinderOf } = useJob()
  return useMemo(() => {
    if (!state.refrigerant) return []
    const candidates = data.cylinders
      .map(({ cylinderId }) => cylinderOf(cylinderId)!)
      .filter((cylinder) => use === 'recover' || cylinder.refrigerant !== null)
      .map((cylinder) => ({ cylinder, fitness: fitnessOf(cylinder, use, wantedMg, state, data) }))
    if (use === 'recover') return rankToTake(candidates, intent, data.system?.customerId ?? null)
    return candidates.sort(
      (a, b) =>
        a.fitness.refusals.length - b.fitness.refusals.length ||
        // What this job took out goes back first.
        Number(isOwn(b.cylinder.cylinderId, state)) - Number(isOwn(a.cylinder.cylinderId, state)) ||
        b.cylinder.balanceMg - a.cylinder.balanceMg,
    )
  }, [data, state, use, wantedMg, cylinderOf, intent])
}

/** For a cylinder that stands in front of you and is not in the list. */
function FindByLabel({ use }: { use: Use }) {
  const { data, learn, state, note } = useJob()
  const [label, setLabel] = useState('')
  const [message, setMessage] = useState('')
  const [near, setNear] = useState<JobCylinder[]>([])
  const find = async () => {
    setNear([])
    if (label.trim() === '') return setMessage('Type the label on the cylinder.')
    const answer = await askOrLook<{ cylinders: JobCylinder[] }>(
      `/cylinders/find?label=${encodeURIComponent(label.trim())}&job=${data.jobId}`,
      () => import('~/device/known/looks').then((each) => each.cylindersLike),
    )
    if (!answer) return setMessage('No connection: choose from the list, or note it and choose later.')
    const { cylinders } = answer
    const exact = cylinders.find((c) => c.label.toLowerCase() === label.trim().toLowerCase())
    if (exact) return choose(exact)
    // A label that is only like it may stand on another cylinder: that is for a person to say.
    setMessage(
      cylinders.length === 0
        ? `No cylinder in use has "${label.trim()}" in its label.`
        : `No cylinder has just the label "${label.trim()}". Which one is it?`,
    )
    setNear(cylinders)
  }
  const choose = (cylinder: JobCylinder) => {
    setNear([])
    learn(cylinder)
    const reasons = reasonsAgainst(cylinder)
    if (reasons.length > 0) return setMessage(`${cylinder.label}: ${reasons.join(' ')}`)
    setMessage('')
    setLabel('')
    note([draft('cylinder-chosen', { cylinderId: cylinder.cylinderId, use, massMg: null })])
  }
  const reasonsAgainst = (cylinder: JobCylinder) =>
    fitnessOf(cylinder, use, null, state, data).refusals.map((r) => REASON_WORDS[r.code])
  return (
    <>
      <Form.Control
        aria-label="Label of another cylinder"
        placeholder="Label of another"
        style={{ width: '11rem' }}
        value={label}
        maxLength={80}
        onChange={(event) => setLabel(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && void find()}
      />
      <Button variant="outline-secondary" onClick={() => void find()}>
        Choose by label
      </Button>
      {message && (
        <div className="field-error w-100" role="alert">
          {message}
        </div>
      )}
      {near.length > 0 && (
        <div className="row-of w-100" role="group" aria-label="Cylinders with a label like it">
          {near.map((cylinder) => (
            <Button key={cylinder.cylinderId} variant="outline-primary" onClick={() => choose(cylinder)}>
              {cylinder.label}
            </Button>
          ))}
        </div>
      )}
    </>
  )
}
