import { type ChangeEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { Photo, PhotoOf } from '#core/tape'
import { newId } from '~/tape/device'
import { draft } from '~/tape/use-tape'
import { clockTime } from '~/ui/time'
import { PHOTO_WORDS } from '~/wording/en'
import { useJob } from '../job-context'

const LARGEST = 11_500_000

/** Photos before and after, by the phone's camera. */
export function Photos() {
  const { data, state, note, closed } = useJob()
  const [of, setOf] = useState<PhotoOf>('before')
  const [sending, setSending] = useState(false)
  const [problem, setProblem] = useState<string>()
  const send = async (file: File) => {
    setProblem(undefined)
    if (file.size > LARGEST) return setProblem('This photo is larger than 11 MB: take it in a smaller size.')
    setSending(true)
    const photoId = newId()
    const body = new FormData()
    body.set('photoId', photoId)
    body.set('photo', file)
    try {
      const answer = await fetch(`/jobs/${data.jobId}/photos`, { method: 'POST', body })
      if (answer.ok) note([draft('photo-noted', { photoId, of, text: '' })])
      else setProblem(await sentenceOf(answer))
    } catch (error) {
      if (!(error instanceof TypeError)) throw error
      setProblem(
        'No signal: this photo was not sent. It stays in your phone’s own pictures; choose it again later.',
      )
    } finally {
      setSending(false)
    }
  }
  const chosen = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0]
    event.target.value = ''
    if (file) void send(file)
  }
  const shown = state.photos.filter((each) => each.hidden === undefined)
  const hidden = state.photos.length - shown.length
  return (
    <section className="stack" aria-label="Photos" style={{ gap: '0.5rem' }}>
      <div className="spread">
        <h3 className="mb-0">Photos</h3>
        {hidden > 0 && <span className="quiet">{hidden} hidden</span>}
      </div>
      {shown.length > 0 && (
        <div className="photos">
          {shown.map((photo) => (
            <OnePhoto key={photo.photoId} photo={photo} />
          ))}
        </div>
      )}
      {!closed && (
        <div className="row-of">
          <span className="tap-row" role="group" aria-label="Taken">
            {(Object.keys(PHOTO_WORDS) as PhotoOf[]).map((each) => (
              <Button
                key={each}
                variant={each === of ? 'primary' : 'outline-primary'}
                aria-pressed={each === of}
                onClick={() => setOf(each)}
              >
                {PHOTO_WORDS[each]}
              </Button>
            ))}
          </span>
          <label className={`btn btn-primary btn-big ${sending ? 'disabled' : ''}`}>
            {sending ? 'Sending …' : 'Take a photo'}
            <input
              type="file"
              accept="image/jpeg,image/png,image/webp"
              capture="environment"
              className="visually-hidden"
              disabled={sending}
              onChange={chosen}
            />
          </label>
          <span className="quiet">No faces, no plates of others. Where it was taken is not kept.</span>
        </div>
      )}
      {problem && (
        <p className="field-error mb-0" role="alert">
          {problem}
        </p>
      )}
    </section>
  )
}

function OnePhoto({ photo }: { photo: Photo }) {
  const { data, note } = useJob()
  const [asking, setAsking] = useState(false)
  const [reason, setReason] = useState('')
  const words = `${PHOTO_WORDS[photo.of]}, ${clockTime(photo.at, data.shop.timeZone)}`
  const at = `/jobs/${data.jobId}/photos/${photo.photoId}`
  return (
    <figure>
      <a href={at} target="_blank" rel="noreferrer">
        <img src={at} alt={`${words}${photo.text ? `: ${photo.text}` : ''}`} loading="lazy" />
      </a>
      <figcaption className="quiet">
        {words}{' '}
        {data.mayWrite &&
          (asking ? (
            <form
              className="row-of"
              onSubmit={(event) => {
                event.preventDefault()
                if (reason.trim() === '') return
                note([draft('photo-hidden', { photoId: photo.photoId, reason: reason.trim() })])
              }}
            >
              <Form.Control
                aria-label="Why it is hidden"
                placeholder="because …"
                value={reason}
                maxLength={400}
                autoFocus
                onChange={(event) => setReason(event.target.value)}
              />
              <Button type="submit">Hide it</Button>
            </form>
          ) : (
            <Button variant="link" className="p-0" onClick={() => setAsking(true)}>
              Hide …
            </Button>
          ))}
      </figcaption>
    </figure>
  )
}

/** What the server says is wrong; a page of somebody else's says nothing of ours. */
async function sentenceOf(answer: Response): Promise<string> {
  const text = await answer.text()
  if (answer.status === 413) return 'This photo is too large: take it in a smaller size.'
  if (answer.status === 422 || answer.status === 429) {
    const plain = text.trim().replace(/^"|"$/g, '')
    if (plain.length < 200 && !plain.startsWith('<')) return plain
  }
  return `The photo was not taken (${answer.status}): try again, or keep it in your phone.`
}
