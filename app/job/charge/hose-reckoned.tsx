import { Button } from 'react-bootstrap'
import { hoseKeeps } from '#core/charging'
import { HOSE_BORE_M } from '#core/hoses'
import { tableOf } from '#core/refrigerants'
import { ambientAt, kitInUse } from '#core/tape'
import { useShow } from '~/base/ui/reader'
import { useJob } from '../field/job-context'

/** Room temperature, where nobody has measured, K. */
const USUAL_K = 293.15
/** A hose as most are, where none is named. */
const USUAL = { boreM: HOSE_BORE_M['1/4']!, lengthM: 1.5 }

/** What the hose keeps by its bore and length, to be taken over: full of liquid, or swallowed by the running system. */
export function HoseReckoned({ take }: { take: (text: string) => void }) {
  const { state } = useJob()
  const show = useShow()
  if (!state.refrigerant) return null
  const set = kitInUse(state).findLast((each) => each.kind === 'hoses')
  const { boreM, lengthM } = set?.facts ?? {}
  const known = boreM !== undefined && lengthM !== undefined ? { boreM, lengthM } : undefined
  const hose = known ?? USUAL
  const keeps = hoseKeeps(tableOf(state.refrigerant), hose, ambientAt(state, state.lastAt) ?? USUAL_K)
  if (!keeps) return null
  return (
    <div className="row-of">
      <span className="quiet">
        {known ? `One hose of ${set!.label}` : 'A quarter-inch hose of 1.5 m'} keeps:
      </span>
      <Button variant="outline-primary" type="button" onClick={() => take(show('weight', keeps.liquidMg))}>
        {show('weight', keeps.liquidMg)} full of liquid
      </Button>
      <Button variant="outline-primary" type="button" onClick={() => take(show('weight', keeps.swallowedMg))}>
        {show('weight', keeps.swallowedMg)} once the running system has drawn it in
      </Button>
    </div>
  )
}
