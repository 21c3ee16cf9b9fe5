import { type FormEvent, useState } from 'react'
import { Button } from 'react-bootstrap'
import { judgeKitProof, KIT_PROOF } from '#core/vacuum'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { Value } from '~/base/ui/reader'
import { KIT_PROOF_WORDS } from '~/words/en'
import { useJob } from '~/job/field/job-context'
import { useFigure } from '~/job/field/use-figure'

/** Pump, hoses and gauge alone, before anything is said of the system. */
export function KitProof() {
  const { state, note, closed } = useJob()
  const last = state.kitProofs.at(-1)
  const [open, setOpen] = useState(false)
  const reached = useFigure('vacuum', 'kit reached')
  const held = useFigure('vacuum', 'kit held')
  const [minutes, setMinutes] = useState('3')
  const [asked, setAsked] = useState(false)
  const forS = Number(minutes.replace(',', '.')) * 60
  const noTime = !(forS > 0 && forS < 86_400)
  const code = last && judgeKitProof(last.reachedPa, last.heldPa, last.forS)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const [reachedPa, heldPa] = [reached.want(), held.want()]
    setAsked(true)
    if (reachedPa === undefined || heldPa === undefined || noTime) return
    note([
      draft('kit-proof', { reachedPa, heldPa, forS }),
      ...(judgeKitProof(reachedPa, heldPa, forS) === 'kit-proved'
        ? [draft('step-done', { step: 'kit-proved' })]
        : []),
    ])
    reached.clear()
    held.clear()
    setOpen(false)
  }
  return (
    <section aria-label="The kit alone">
      <div className="spread">
        <p className="mb-0">
          {last ? (
            <>
              <strong className={code === 'kit-proved' ? '' : 'field-error'}>{KIT_PROOF_WORDS[code!]}</strong>{' '}
              <span className="quiet">
                <Value kind="vacuum" of={last.reachedPa} />, then <Value kind="vacuum" of={last.heldPa} />
              </span>
            </>
          ) : (
            <>
              <strong>Prove the kit first</strong>{' '}
              <span className="quiet">
                pump against closed valves: below <Value kind="vacuum" of={KIT_PROOF.reachPa} />, and it stays
                there
              </span>
            </>
          )}
        </p>
        {!closed && (
          <Button variant="outline-secondary" onClick={() => setOpen(!open)} aria-expanded={open}>
            {open ? 'Leave it' : last ? 'Again' : 'Prove it'}
          </Button>
        )}
      </div>
      {open && (
        <form onSubmit={submit} className="stack mt-2">
          <div className="form-grid">
            <MeasureInput {...reached.field} label="Pump on: it gets down to" />
            <MeasureInput {...held.field} label="Pump off: then it reads" />
            <div className="field">
              <label className="form-label" htmlFor="kit-minutes">
                after, minutes
              </label>
              <input
                id="kit-minutes"
                className="form-control"
                inputMode="decimal"
                value={minutes}
                maxLength={5}
                onChange={(event) => setMinutes(event.target.value)}
              />
              {asked && noTime && <div className="field-error">Enter minutes, such as 3.</div>}
            </div>
          </div>
          <div>
            <Button type="submit">Note the proof</Button>
          </div>
        </form>
      )}
    </section>
  )
}
