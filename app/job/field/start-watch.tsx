import { Button } from 'react-bootstrap'
import { clocksOf, type Watched } from '#core/tape'
import { newId } from '~/tape/device'
import { draft } from '~/tape/draft'
import { useJob } from './job-context'

const MIN_S = 60
/** How long it is watched at the least; who wants longer notes again later. */
const WATCHES: Record<Watched, { minutes: number[]; why: string }> = {
  pull: {
    minutes: [10],
    why: 'Valve shut, wait: liquid under oil takes minutes to boil off. Then note the low side.',
  },
  nitrogen: {
    minutes: [10, 30, 60],
    why: 'A fine leak needs a long hold. Then note the pressure, and the temperature at both ends.',
  },
}

/**
 * Begins a watch: its clock stands on every screen, and asks for the reading that is due.
 * @param leastS what is shorter would tell nothing, s
 */
export function StartWatch({ what, leastS = 0 }: { what: Watched; leastS?: number }) {
  const { state, note, closed } = useJob()
  const { why } = WATCHES[what]
  const least = Math.ceil(leastS / MIN_S)
  const longer = WATCHES[what].minutes.filter((each) => each > least)
  const minutes = least > 0 ? [least, ...longer] : longer
  if (closed) return null
  if (clocksOf(state, null).some((clock) => clock.what === what))
    return <p className="quiet mb-0">The clock above runs: it asks for the reading when it is due.</p>
  return (
    <div className="row-of">
      {minutes.map((each) => (
        <Button
          key={each}
          variant="outline-secondary"
          onClick={() => note([draft('watch-started', { watchId: newId(), what, forS: each * MIN_S })])}
        >
          Watch it for {each} min
        </Button>
      ))}
      <span className="quiet">{why}</span>
    </div>
  )
}
