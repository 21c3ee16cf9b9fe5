import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { useFormContext } from 'react-hook-form'
import { MG_PER_G } from '#core/units'
import { readVin } from '#core/vehicles'
import { ask } from '~/base/ask'
import { measure, typed } from '~/base/ui/measure'
import { useReadersUnits } from '~/base/ui/reader'
import type { VehicleAnswer, VehicleData } from './vehicle-data/ask.server'
import { DRIVE_WORDS } from '~/words/en'

const WORDS: Record<Exclude<VehicleAnswer['kind'], 'found'>, string> = {
  unknown: 'The service does not know this vehicle: type what its sticker says.',
  none: 'No service for vehicle data is set up here: type what the sticker says.',
  unreachable: 'The service does not answer: type what the sticker says, or ask again later.',
  nonsense: 'The service answered something that cannot be read: nothing was taken from it.',
}

/** What an outside service says, beside what the sticker says: the sticker always wins, and a difference is shown. */
export function VehicleDataCheck() {
  const form = useFormContext()
  const units = useReadersUnits()
  const [answer, setAnswer] = useState<VehicleAnswer>()
  const [busy, setBusy] = useState(false)
  const [said, setSaid] = useState('')
  const value = (name: string) => String(form.getValues(name) ?? '').trim()
  const look = async () => {
    const [vin, registration] = [value('vin'), value('registration')]
    const read = readVin(vin)
    if (vin === '' && registration === '') return setSaid('Type the registration or the number first.')
    if (vin !== '' && read.kind === 'malformed')
      return setSaid('The number has 17 digits and letters, but no I, O and Q: check it first.')
    setSaid(
      read.kind === 'unchecked'
        ? `Its check digit should be ${read.shouldBe}: read it again. Outside North America not every maker uses one.`
        : '',
    )
    setBusy(true)
    const found = await ask<VehicleAnswer>(
      `/systems/vehicle-data?${new URLSearchParams({ vin, registration })}`,
    )
    setBusy(false)
    setAnswer(found ?? { kind: 'unreachable' })
  }
  const rows = answer?.kind === 'found' ? rowsOf(answer.vehicle) : []
  return (
    <div className="vehicle-data">
      <div className="row-of">
        <Button type="button" variant="outline-primary" disabled={busy} onClick={() => void look()}>
          {busy ? 'Asking …' : 'Ask the vehicle data service'}
        </Button>
        <span className="quiet">The sticker wins: this only fills what it does not say.</span>
      </div>
      <div role="status">
        {said && <p className="field-error mb-0 mt-1">{said}</p>}
        {answer && answer.kind !== 'found' && <p className="mb-0 mt-1">{WORDS[answer.kind]}</p>}
        {answer?.kind === 'found' && (
          <ul className="plain-list mt-1">
            <li>
              <strong>
                {answer.vehicle.make} {answer.vehicle.model}
              </strong>
              {answer.vehicle.year !== undefined && `, ${answer.vehicle.year}`}
            </li>
            {rows.map(({ name, label, text, same }) => {
              const typedIn = value(name)
              const differs = typedIn !== '' && !same(typedIn)
              return (
                <li key={name}>
                  {label}: <strong>{text}</strong>{' '}
                  {typedIn === '' ? (
                    <Button
                      type="button"
                      variant="link"
                      className="p-0"
                      onClick={() => {
                        form.setValue(name, text, { shouldTouch: true })
                        // The list is drawn anew with what stands there now.
                        setAnswer({ ...answer })
                      }}
                    >
                      Take it
                    </Button>
                  ) : differs ? (
                    <span className="field-error">
                      differs from what is typed ({typedIn}): the sticker wins. Look at it again.
                    </span>
                  ) : (
                    <span className="quiet">as typed</span>
                  )}
                </li>
              )
            })}
            {answer.vehicle.drive && <li>{DRIVE_WORDS[answer.vehicle.drive]}</li>}
          </ul>
        )}
      </div>
    </div>
  )

  function rowsOf({ refrigerant, chargeG, oilType }: VehicleData) {
    const rows: { name: string; label: string; text: string; same: (typedIn: string) => boolean }[] = []
    if (refrigerant)
      rows.push({
        name: 'refrigerant',
        label: 'Refrigerant',
        text: refrigerant,
        same: (t) => t === refrigerant,
      })
    if (chargeG !== undefined) {
      const massMg = chargeG * MG_PER_G
      rows.push({
        name: 'plate',
        label: 'Charge',
        text: typed('weight', massMg, units),
        same: (t) => {
          const read = measure('plate', t, units)
          return read.kind === 'one' && Math.abs(read.value - massMg) < MG_PER_G
        },
      })
    }
    if (oilType)
      rows.push({
        name: 'oilType',
        label: 'Oil',
        text: oilType,
        same: (t) => t.toLowerCase() === oilType.toLowerCase(),
      })
    return rows
  }
}
