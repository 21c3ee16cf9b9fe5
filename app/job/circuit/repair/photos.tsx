import { type ChangeEvent, useEffect, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { Photo, PhotoOf } from '#core/tape'
import { smallerJpeg } from '~/photos/smaller'
import { makeEntry, newId } from '~/tape/device'
import { PhotoHere } from '~/device/waiting/photo-here'
import { useOutbox } from '~/device/outbox/outbox-context'
import { draft } from '~/tape/draft'
import { clockTime } from '~/base/ui/time'
import { PHOTO_WORDS } from '~/words/en'
import { useJob } from '~/job/field/job-context'

/** Photos before and after, by the phone's camera. Without signal they wait on the device. */
export function Photos() {
  const { data, state, closed } = useJob()
  const { outbox, photos, photosAside } = useOutbox()
  const [of, setOf] = useState<PhotoOf>('before')
  const [taking, setTaking] = useState(false)
  const [problem, setProblem] = useState<string>()
  const take = async (file: File) => {
    setProblem(undefined)
    setTaking(true)
    const jpeg = await smallerJpeg(file)
    setTaking(false)
    if (jpeg === undefined)
      return setProblem(
        'This file is no picture that can be read: take the photo again, as JPEG, PNG or WebP.',
      )
    void outbox.photo(data.jobId, makeEntry('photo-noted', { photoId: newId(), of, text: '' }), jpeg)
  }
  const chosen = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0]
    event.target.value = ''
    if (file) void take(file)
  }
  const shown = state.photos.filter((each) => each.hidden === undefined)
  const hidden = state.photos.length - shown.length
  const noted = new Set(state.photos.map(({ photoId }) => photoId))
  const here = [...photos, ...photosAside].filter(
    ({ jobId, photoId }) => jobId === data.jobId && !noted.has(photoId),
  )
  return (
    <section className="stack" aria-label="Photos" style={{ gap: '0.5rem' }}>
      <div className="spread">
        <h3 className="mb-0">Photos</h3>
        {hidden > 0 && (
          <span className="quiet">{hidden} hidden: only a manager can open it by its address</span>
        )}
      </div>
      {shown.length + here.length > 0 && (
        <div className="photos">
          {shown.map((photo) => (
            <OnePhoto key={photo.photoId} photo={photo} />
          ))}
          {here.map((photo) => (
            <PhotoHere key={photo.photoId} photo={photo} timeZone={data.shop.timeZone} />
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
          <label className={`btn btn-primary btn-big ${taking ? 'disabled' : ''}`}>
            {taking ? 'One moment …' : 'Take a photo'}
            <input
              type="file"
              accept="image/jpeg,image/png,image/webp"
              capture="environment"
              className="visually-hidden"
              disabled={taking}
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
  const [missing, setMissing] = useState(false)
  useEffect(() => {
    if (!missing) return
    const again = () => setMissing(false)
    window.addEventListener('online', again)
    return () => window.removeEventListener('online', again)
  }, [missing])
  return (
    <figure>
      {missing ? (
        <button type="button" className="photo-missing" onClick={() => setMissing(false)}>
          The server has this photo. Load it again
        </button>
      ) : (
        <a href={at} target="_blank" rel="noreferrer">
          <img
            src={at}
            alt={`${words}${photo.text ? `: ${photo.text}` : ''}`}
            loading="lazy"
            onError={() => setMissing(true)}
          />
        </a>
      )}
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
