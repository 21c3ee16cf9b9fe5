import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { mayUse } from '#core/kit'
import { kitInUse } from '#core/tape'
import { KitIcon } from '~/kit/icon'
import type { JobKit } from '~/kit/job-kit'
import { askOrLook } from '~/device/page/ask-or-look'
import { draft } from '~/tape/draft'
import { KIT_KIND_WORDS, REASON_WORDS } from '~/words/en'
import { useJob } from '../field/job-context'

/** What the job works with: one tap takes what is in the van, single pieces come and go. */
export function UseKit() {
  const { data, state, closed } = useJob()
  const using = kitInUse(state)
  const known = new Map(data.kit.map((each) => [each.kitId, each]))
  return (
    <section className="job-kit" aria-labelledby="job-kit">
      <h3 id="job-kit">Kit in use</h3>
      {using.length === 0 ? (
        <p className="mb-1 quiet">
          None is named: weights and pressures are taken as of ordinary instruments, and their doubt with
          them.
        </p>
      ) : (
        <ul className="kit-chips">
          {using.map((each) => (
            <Chip key={each.kitId} piece={each} now={known.get(each.kitId)} />
          ))}
        </ul>
      )}
      {!closed && <Choose />}
    </section>
  )
}

function Chip({
  piece: { kitId, kind, label },
  now,
}: {
  piece: Pick<JobKit, 'kitId' | 'kind' | 'label'>
  now: JobKit | undefined
}) {
  const { note, closed } = useJob()
  return (
    <li className={now?.failed ? 'failed' : undefined}>
      <span className="with-icon">
        <KitIcon kind={kind} size={18} /> {label}
        <span className="visually-hidden"> ({KIT_KIND_WORDS[kind]})</span>
      </span>
      {now?.failed && <span className="tag tag-limit">check failed</span>}
      {now && !now.failed && now.due && <span className="tag tag-amber">check due</span>}
      {!closed && (
        <Button
          variant="link"
          aria-label={`Set ${label} aside`}
          onClick={() => note([draft('kit-set-aside', { kitId })])}
        >
          Set aside
        </Button>
      )}
    </li>
  )
}

function Choose() {
  const { data, state, note } = useJob()
  const [place, setPlace] = useState(data.van)
  const [other, setOther] = useState<JobKit[]>()
  const [lost, setLost] = useState(false)
  const using = new Set(kitInUse(state).map((each) => each.kitId))
  const here = place === data.van ? data.kit.filter((each) => samePlace(each.keepsAt, place)) : (other ?? [])
  const fresh = here.filter((each) => !using.has(each.kitId))
  const refused = fresh.flatMap((piece) => {
    const [code] = mayUse(piece, state.refrigerant)
    return code ? [{ piece, code }] : []
  })
  const usable = fresh.filter((piece) => !refused.some((each) => each.piece === piece))
  const go = async (next: string) => {
    setPlace(next)
    setLost(false)
    if (next === data.van || next === '') return
    const answer = await askOrLook<{ kit: JobKit[] }>(`/kit/find?place=${encodeURIComponent(next)}`, () =>
      import('~/device/known/looks').then((each) => each.kitAtPlace),
    )
    setOther(answer?.kit ?? [])
    setLost(answer === undefined)
  }
  if (data.places.length === 0) return null
  return (
    <div className="stack" style={{ gap: '0.5rem' }}>
      <div className="row-of">
        {place && usable.length > 0 && (
          <Button
            className="btn-big"
            variant={using.size > 0 ? 'outline-primary' : 'primary'}
            onClick={() => note(usable.map((piece) => taken(piece)))}
          >
            Use the set of {place} ({usable.length})
          </Button>
        )}
        <label className="row-of">
          <span className="quiet">from</span>
          <select
            className="form-select w-choice"
            aria-label="Kit from"
            value={place}
            onChange={(event) => void go(event.target.value)}
          >
            {(place === '' || !data.places.some((each) => samePlace(each, place))) && (
              <option value={place}>{place || 'Choose a van'}</option>
            )}
            {data.places.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        </label>
      </div>
      {lost && (
        <p className="quiet mb-0" role="status">
          No connection: what is in {place} is not known here.
        </p>
      )}
      {refused.map(({ piece, code }) => (
        <p key={piece.kitId} className="field-error mb-0" role="status">
          {piece.label} stays out. {REASON_WORDS[code]}
        </p>
      ))}
      {usable.length > 0 && (
        <details>
          <summary>One by one</summary>
          <div className="row-of">
            {usable.map((piece) => (
              <Button
                key={piece.kitId}
                variant="outline-secondary"
                className="with-icon"
                onClick={() => note([taken(piece)])}
              >
                <KitIcon kind={piece.kind} size={18} /> {piece.label}
              </Button>
            ))}
          </div>
        </details>
      )}
    </div>
  )
}

const samePlace = (a: string, b: string) => a.toLowerCase() === b.toLowerCase()

const taken = ({ kitId, kind, label, facts }: JobKit) => draft('kit-used', { kitId, kind, label, facts })
