import { filterUsed } from '#core/kit'
import type { KitRow } from '#db'
import { useShow } from '~/base/ui/reader'
import { day } from '~/base/ui/time'
import type { BottleLevel } from './piece-data'

/** What a machine or a hose holds, and what went through it. */
export function InIt({ piece }: { piece: KitRow }) {
  const show = useShow()
  const used = filterUsed(piece.facts, piece.passedMg)
  const purged = piece.purgedAt !== null && (piece.gasAt === null || piece.purgedAt >= piece.gasAt)
  return (
    <section className="sheet">
      <h2>In it</h2>
      <div className="hero">{show('weight', Math.max(0, piece.balanceMg))}</div>
      <p className="mb-0">
        {piece.lastGas && !purged
          ? `By the books. ${piece.lastGas} went through it last, and it was not purged since: another gas may not follow before it is.`
          : piece.lastGas
            ? `By the books. ${piece.lastGas} went through it last; purged since.`
            : 'By the books. Nothing went through it yet.'}
      </p>
      {used !== null && (
        <p className="mb-0 mt-1">
          Through its filter-drier since it was fitted:{' '}
          <strong className="digits">{show('weight', piece.passedMg)}</strong>, {Math.round(100 * used)} % of
          what it is good for.
        </p>
      )}
    </section>
  )
}

interface LeftInItProps {
  bottle: BottleLevel
  timeZone: string
}

/** What a bottle has left. */
export function LeftInIt({ bottle, timeZone }: LeftInItProps) {
  const show = useShow()
  return (
    <section className="sheet">
      <h2>Left in it</h2>
      <div className="hero">
        {bottle.ml === undefined ? 'not known' : show('volume', Math.max(0, bottle.ml - bottle.takenMl))}
      </div>
      <p className="mb-0">
        {bottle.since
          ? `By its level of ${day(bottle.since, timeZone)}, less ${show('volume', bottle.takenMl)} that jobs took since.`
          : bottle.ml === undefined
            ? 'Note what is left in it once: from then on jobs count it down.'
            : `A full bottle, less ${show('volume', bottle.takenMl)} that jobs took.`}
      </p>
    </section>
  )
}

interface HoursRunProps {
  hours: number
  /** Its oil; not known where that is not given. */
  goodFor: number | undefined
}

/** How long a pump ran on its oil. */
export function HoursRun({ hours, goodFor }: HoursRunProps) {
  return (
    <section className="sheet">
      <h2>Hours since its oil was changed</h2>
      <div className="hero">{hours} h</div>
      {goodFor !== undefined && <p className="mb-0">Its oil is good for {goodFor} h.</p>}
    </section>
  )
}
