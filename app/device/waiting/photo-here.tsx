import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { clockTime } from '~/base/ui/time'
import { PHOTO_WORDS } from '~/words/en'
import { useOutbox } from '../outbox/outbox-context'
import type { PhotoAside, PhotoWaiting } from '../room/waiting-room'

/** A photo that only this device has: it waits, or the server did not take it. */
export function PhotoHere({ photo, timeZone }: { photo: PhotoWaiting | PhotoAside; timeZone: string }) {
  const { outbox } = useOutbox()
  const { photoId, entry, jpeg } = photo
  const words = `${PHOTO_WORDS[entry.body.of]}, ${clockTime(entry.at, timeZone)}`
  // Nothing else has it: one press is not enough.
  const [asking, setAsking] = useState(false)
  const refused = 'sentence' in photo ? photo.sentence : undefined
  return (
    <figure>
      <img src={`data:image/jpeg;base64,${jpeg}`} alt={words} />
      <figcaption className="quiet">
        {words} ·{' '}
        {refused === undefined ? (
          'not sent yet'
        ) : (
          <span className="field-error" role="alert">
            not taken: {refused}
          </span>
        )}
        <div className="row-of">
          {refused !== undefined && (
            <Button onClick={() => void outbox.photoAgain(photoId)}>Send it again</Button>
          )}
          {asking ? (
            <>
              {/* Where the first press was: a glove that taps twice keeps it. */}
              <Button variant="outline-secondary" onClick={() => setAsking(false)}>
                Keep it
              </Button>
              <Button variant="danger" onClick={() => void outbox.throwPhotoAway(photoId)}>
                Throw it away
              </Button>
            </>
          ) : (
            <Button variant="link" className="p-0" onClick={() => setAsking(true)}>
              Throw it away …
            </Button>
          )}
        </div>
      </figcaption>
    </figure>
  )
}
