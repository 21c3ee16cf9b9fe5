import type { PressurePoint, Transfer } from '#core/tape'
import { useShow } from '~/base/ui/reader'
import { useJob } from '../field/job-context'

export type ReadingAsked =
  { kind: 'pressure'; point: PressurePoint } | { kind: 'temperature'; point: 'cylinder' }

export const READINGS: { asked: ReadingAsked; key: string; label: string }[] = [
  { asked: { kind: 'pressure', point: 'low' }, key: 'Low', label: 'Low side' },
  { asked: { kind: 'pressure', point: 'high' }, key: 'High', label: 'High side' },
  { asked: { kind: 'pressure', point: 'cylinder' }, key: 'Cyl p', label: 'Cylinder pressure' },
  { asked: { kind: 'temperature', point: 'cylinder' }, key: 'Cyl t', label: 'Cylinder temperature' },
]

interface ReadingKeysProps {
  transfer: Transfer
  chosen: string | undefined
  choose: (label: string | undefined) => void
}

/** One tap turns the pad to a gauge or a clamp; noted, it comes back to the weight. */
export function ReadingKeys({ transfer, chosen, choose }: ReadingKeysProps) {
  const { state } = useJob()
  const show = useShow()
  const last = ({ kind, point }: ReadingAsked): string => {
    const notes = kind === 'pressure' ? state.pressureNotes : state.temperatureNotes
    const found = notes.findLast((each) => each.point === point && each.at >= transfer.startedAt)
    if (!found) return '–'
    return show(kind, found.value, 'atmospherePa' in found ? found.atmospherePa : undefined)
  }
  return (
    <div className="face-readings" role="group" aria-label="Readings">
      {READINGS.map(({ asked, key, label }) => (
        <button
          key={key}
          type="button"
          aria-label={`${label}: ${last(asked)}`}
          aria-pressed={chosen === label}
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => choose(chosen === label ? undefined : label)}
        >
          <span className="quiet">{key}</span>
          <strong className="digits">{last(asked)}</strong>
        </button>
      ))}
    </div>
  )
}
