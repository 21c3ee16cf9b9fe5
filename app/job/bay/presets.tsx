import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { PlannedStep } from '#core/programme'
import { useJob } from '../field/job-context'
import { useStation } from './use-station'

interface PresetsProps {
  /** By its name. */
  chosen: string
  steps: readonly PlannedStep[]
  unreadable: boolean
  choose: (preset: { name: string; steps: PlannedStep[] }) => void
}

/** The shop's programmes: one is taken, changed, saved under a name. The amount to charge belongs to a vehicle, and stays out. */
export function Presets({ chosen, steps, unreadable, choose }: PresetsProps) {
  const { data } = useJob()
  const { tell, busy, error } = useStation()
  const [name, setName] = useState('')
  const presets = data.bay?.presets ?? []
  const save = async () => {
    const own = steps.map(({ massMg: _, ...step }) => step)
    const saved = await tell('save', { sent: JSON.stringify({ name: name || chosen, steps: own }) })
    if (saved) choose({ name: name || chosen, steps: own })
    if (saved) setName('')
  }
  const current = presets.find((each) => each.name === chosen)
  return (
    <div className="stack">
      {presets.length > 0 && (
        <div className="key-grid" role="group" aria-label="The shop’s programmes">
          {presets.map((each) => (
            <Button
              key={each.presetId}
              variant={each.name === chosen ? 'secondary' : 'outline-secondary'}
              aria-pressed={each.name === chosen}
              onClick={() => choose(each)}
            >
              {each.name}
            </Button>
          ))}
        </div>
      )}
      <details>
        <summary>Save as the shop’s programme{current ? ', or take one away' : ''}</summary>
        <div className="row-of">
          <Form.Control
            aria-label="Name of the programme"
            placeholder={chosen || 'Its name, such as Buses'}
            value={name}
            maxLength={60}
            onChange={(event) => setName(event.target.value)}
          />
          <Button
            variant="outline-primary"
            disabled={busy || unreadable || (name.trim() === '' && chosen === '')}
            onClick={() => void save()}
          >
            Save
          </Button>
          {current && (
            <Button
              variant="outline-danger"
              disabled={busy}
              onClick={() => void tell('drop', { presetId: current.presetId })}
            >
              Take {current.name} away
            </Button>
          )}
        </div>
        {error && (
          <p className="field-error mb-0" role="alert">
            {error}
          </p>
        )}
      </details>
    </div>
  )
}
