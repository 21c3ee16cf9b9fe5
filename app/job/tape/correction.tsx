import { useState } from 'react'
import { Button, Modal } from 'react-bootstrap'
import { askAboutCorrection, type AskedWeight, figureOf, KINDS, type TapeLine, versionOf } from '#core/tape'
import { Question } from '~/tape/question'
import { draft } from '~/tape/draft'
import { measure, typed } from '~/base/ui/measure'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits } from '~/base/ui/reader'
import { useOnScale } from '../moving/on-scale'
import { useWords } from '../field/use-words'
import { useJob } from '../field/job-context'

export function mayCorrect(line: TapeLine): boolean {
  return !line.struck && KINDS[line.entry.kind].correctable
}

/** Corrects or strikes an entry. What was written stays on the tape beside it. */
export function Correction({ line, done }: { line: TapeLine; done: () => void }) {
  const { note, state, cylinderOf, data } = useJob()
  const words = useWords()
  const reading = useReadersUnits()
  const { kind, entryId } = line.entry
  const body = line.body as unknown as Record<string, unknown>
  const figure = figureOf(kind)
  const [shown] = useState(figure ? typed(figure.quantity, body[figure.key] as number, reading) : '')
  const [text, setText] = useState(shown)
  const [cylinderId, setCylinderId] = useState(String(body.cylinderId ?? ''))
  const [reason, setReason] = useState('')
  const measured = figure && measure(figure.quantity, text, reading)
  const transfer = state.transfers.find((each) => each.weighings.some((one) => one.entryId === entryId))
  const on = useOnScale(transfer)
  const [asked, setAsked] = useState<AskedWeight>()

  const correct = (corrected: Record<string, unknown> | null) => {
    note([
      draft('correction', {
        entryId,
        kind,
        body: corrected,
        reason: reason.trim(),
        version: versionOf(kind),
      }),
    ])
    done()
  }
  const save = () => {
    if (measured?.kind !== 'one') return
    // What was left as it stood keeps its digits: what is shown has fewer.
    if (text === shown) return correctTo(body[figure!.key] as number)
    const found = transfer && on && askAboutCorrection(transfer, entryId, measured.value, on.bounds)
    if (found) setAsked(found)
    else correctTo(measured.value)
  }
  const correctTo = (value: number) =>
    correct({ ...body, [figure!.key]: value, ...(kind === 'run-started' ? { cylinderId } : {}) })
  return (
    <Modal show onHide={done} centered aria-labelledby="correction-title">
      <form
        onSubmit={(event) => {
          event.preventDefault()
          save()
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="correction-title">
            Correct an entry
          </Modal.Title>
        </Modal.Header>
        <Modal.Body className="stack">
          <p className="mb-0">
            {words(kind, line.body)}
            <br />
            <span className="quiet">
              What was written stays on the tape. Books and verdict follow the correction.
            </span>
          </p>
          {figure && (
            <MeasureInput
              kind={figure.quantity}
              label="It was"
              value={text}
              onChange={(typedText) => {
                setText(typedText)
                setAsked(undefined)
              }}
              autoFocus
            />
          )}
          {asked && measured?.kind === 'one' && (
            <Question asked={asked} instead={correctTo} confirm={() => correctTo(measured.value)} />
          )}
          {kind === 'run-started' && (
            <label className="field">
              <span className="form-label">On the cylinder</span>
              <select
                className="form-select"
                value={cylinderId}
                onChange={(event) => setCylinderId(event.target.value)}
              >
                {[...new Set([cylinderId, ...data.cylinders.map((c) => c.cylinderId)])].map((id) => (
                  <option key={id} value={id}>
                    {cylinderOf(id)?.label ?? id}
                  </option>
                ))}
              </select>
            </label>
          )}
          <label className="field">
            <span className="form-label">Why (may stay empty)</span>
            <input
              className="form-control"
              value={reason}
              maxLength={200}
              onChange={(event) => setReason(event.target.value)}
            />
          </label>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-danger" className="me-auto" onClick={() => correct(null)}>
            Strike it out
          </Button>
          <Button variant="outline-secondary" onClick={done}>
            Back
          </Button>
          {figure && (
            <Button type="submit" disabled={measured?.kind !== 'one'}>
              Correct
            </Button>
          )}
        </Modal.Footer>
      </form>
    </Modal>
  )
}
