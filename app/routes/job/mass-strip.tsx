import { expectedIn, useJob } from './job-context'
import { useShow } from '~/ui/reader'

interface Part {
  what: string
  massMg: number
  className: string
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
          <li key={part.what}>
            {part.what}: <strong className="digits">{show('weight', part.massMg)}</strong>
          </li>
        ))}
      </ul>
    </section>
  )
}

function useParts(): Part[] {
  const { state, data, cylinderOf } = useJob()
  const expected = expectedIn(data, state)
  const netInto = new Map<string, number>()
  let rigMg = 0
  for (const run of state.runs) {
    const sign = run.use === 'recover' ? 1 : -1
    netInto.set(run.cylinderId, (netInto.get(run.cylinderId) ?? 0) + sign * run.amountMg)
    rigMg += run.hoseMg
  }
  const startMg = Math.max(expected?.massMg ?? 0, state.recoveredMg)
  const leftMg = state.recoveryEnded?.emptied ? 0 : Math.max(0, startMg - state.recoveredMg)
  const missingMg = state.recoveryEnded?.emptied ? Math.max(0, startMg - state.recoveredMg) : 0
  const parts: Part[] = []
  const add = (what: string, massMg: number, className: string) => {
    if (massMg > 0) parts.push({ what, massMg, className })
  }
  add('Should still be in the system', leftMg, 'in-system')
  add('In the system', state.chargedMg, 'in-system')
  for (const [cylinderId, massMg] of netInto)
    add(`In ${cylinderOf(cylinderId)?.label ?? 'a cylinder'}`, massMg, 'in-cylinder')
  add('In hoses and machine', rigMg, 'in-rig')
  add('Should have been there, did not come out', missingMg, 'missing')
  return parts
}
