import { useState } from 'react'
import { Button, Modal } from 'react-bootstrap'
import { Link } from 'react-router'
import { bodyToday, type Entry, figureOf } from '#core/tape'
import { measure, typed } from '~/base/ui/measure'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits } from '~/base/ui/reader'
import { dayAndTime } from '~/base/ui/time'
import { REASON_WORDS, wordOf } from '~/words/en'
import { remade } from '~/tape/device'
import { type Names, useEntryWords } from '~/words/tape/entry-words'
import { PhotoHere } from './photo-here'
import { useOutbox } from '../outbox/outbox-context'
import type { EntryAside } from '../room/waiting-room'

interface DialogProps {
  timeZone: string
  close: () => void
}

/** All that the server did not take, whichever job it is of. */
export function NotTakenDialog({ timeZone, close }: DialogProps) {
  const { aside, photosAside } = useOutbox()
  return (
    <Modal
      show={aside.length + photosAside.length > 0}
      onHide={close}
      centered
      scrollable
      aria-labelledby="not-taken-title"
    >
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="not-taken-title">
          Not taken, kept on this device
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className="stack">
        {aside.map((each) => (
          <NotTaken key={each.entryId} aside={each} timeZone={timeZone} leave={close} />
        ))}
        {photosAside.length > 0 && (
          <div className="photos">
            {photosAside.map((each) => (
              <div key={each.photoId}>
                <PhotoHere photo={each} timeZone={timeZone} />
                <Link to={`/jobs/${each.jobId}`} onClick={close}>
                  Open its job
                </Link>
              </div>
            ))}
          </div>
        )}
      </Modal.Body>
    </Modal>
  )
}

interface NotTakenProps {
  aside: EntryAside
  timeZone: string
  names?: Names
  /** The link to its job leaves whatever this stands in. */
  leave?: () => void
}

/** One entry that was not taken: what, why, and what can be done with it. */
export function NotTaken({ aside, timeZone, names, leave }: NotTakenProps) {
  const { outbox } = useOutbox()
  const words = useEntryWords(names)
  const reading = useReadersUnits()
  const { entry, jobId, reasons } = aside
  const body = bodyToday(entry) as unknown as Record<string, unknown>
  const figure = figureOf(entry.kind)
  const [changing, setChanging] = useState<string>()
  const read = figure && changing !== undefined ? measure(figure.quantity, changing, reading) : undefined
  const changed = (): Entry | undefined => {
    if (changing === undefined) return undefined
    if (!figure) return remade(entry, { ...body, text: changing.trim() })
    return read?.kind === 'one' ? remade(entry, { ...body, [figure.key]: read.value }) : undefined
  }
  const mayChange = figure !== undefined || entry.kind === 'note'
  // Chosen anew where it was chosen: what was decided then may no longer be what is wanted.
  const decision = entry.kind === 'cylinder-chosen'
  return (
    <div className="verdict verdict-bad" role="alert">
      <strong>Not taken: {words(entry.kind, bodyToday(entry))}</strong>
      <div className="quiet">
        {entry.at > 0 && dayAndTime(entry.at, timeZone)}
        {leave && jobId && (
          <>
            {' · '}
            <Link to={`/jobs/${jobId}`} onClick={leave}>
              Open its job
            </Link>
          </>
        )}
      </div>
      <ul>
        {reasons.map(({ code }) => (
          <li key={code}>{wordOf(REASON_WORDS, code)}</li>
        ))}
      </ul>
      {changing !== undefined && figure && (
        <MeasureInput
          kind={figure.quantity}
          label="It was"
          value={changing}
          onChange={setChanging}
          autoFocus
        />
      )}
      {changing !== undefined && !figure && (
        <label className="field">
          <span className="form-label">It says</span>
          <textarea
            className="form-control"
            value={changing}
            maxLength={4000}
            onChange={(event) => setChanging(event.target.value)}
          />
        </label>
      )}
      <div className="row-of mt-2">
        {jobId && !decision && (
          <Button
            disabled={changing !== undefined && !changed()}
            onClick={() => void outbox.sendAgain(aside, changed())}
          >
            {changing === undefined ? 'Send it again' : 'Send it like this'}
          </Button>
        )}
        {jobId && mayChange && changing === undefined && (
          <Button
            variant="outline-primary"
            onClick={() =>
              setChanging(
                figure ? typed(figure.quantity, body[figure.key] as number, reading) : String(body.text),
              )
            }
          >
            Change it …
          </Button>
        )}
        <Button variant="outline-secondary" onClick={() => void outbox.throwAway(aside.entryId)}>
          {decision ? 'Understood' : 'Throw it away'}
        </Button>
      </div>
    </div>
  )
}
