import { AirVent, Cable, CircleHelp, Cylinder, type LucideIcon } from 'lucide-react'
import { type Whereabouts, whereabouts } from '#core/tape'
import { useJob, useJudging } from '../field/job-context'
import { useShow } from '~/base/ui/reader'

interface Part {
  what: string
  massMg: number
  className: string
  Icon: LucideIcon
}

/** Where every gram of this job is at this moment. */
export function MassStrip() {
  const parts = useParts()
  const show = useShow()
  const total = parts.reduce((sum, part) => sum + part.massMg, 0)
  if (total <= 0) return null
  return (
    <section className="mass-strip" aria-label="Where the refrigerant of this job is">
      <div className="bar" aria-hidden>
        {parts.map((part) => (
          <div
            key={part.what}
            className={`part ${part.className}`}
            style={{ width: `${(100 * part.massMg) / total}%` }}
          >
            {part.massMg / total > 0.18 && show('weight', part.massMg)}
          </div>
        ))}
      </div>
      <ul className="legend-line">
        {parts.map((part) => (
          <li key={part.what} className="with-icon">
            <part.Icon size={16} aria-hidden className="icon" />
            <span>
              {part.what}: <strong className="digits">{show('weight', part.massMg)}</strong>
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

const PLACES: Record<
  Exclude<Whereabouts['place'], 'cylinder'>,
  [what: string, className: string, Icon: LucideIcon]
> = {
  'in-system': ['In the system', 'in-system', AirVent],
  'added-to-system': ['Added to what was in the system', 'in-system', AirVent],
  'should-be-in-system': ['Should still be in the system', 'in-system', AirVent],
  rig: ['In hoses and machine', 'in-rig', Cable],
  missing: ['Should have been there, did not come out', 'missing', CircleHelp],
}

export function useParts(): Part[] {
  const { state, cylinderOf } = useJob()
  return whereabouts(state, useJudging()).map((part) => {
    if (part.place === 'cylinder')
      return {
        // Of this job: what else is in the cylinder is another matter.
        what: `Of this job in ${cylinderOf(part.cylinderId)?.label ?? 'a cylinder'}`,
        massMg: part.massMg,
        className: 'in-cylinder',
        Icon: Cylinder,
      }
    const [what, className, Icon] = PLACES[part.place]
    return { what, massMg: part.massMg, className, Icon }
  })
}
