import { Button } from 'react-bootstrap'
import type { Transfer } from '#core/tape'
import { MG_PER_KG } from '#core/units'
import { useReading } from '~/device/live/live-context'
import { draft } from '~/tape/draft'
import { useJob } from '../field/job-context'

/**
 * A knock taken out of the sum, by entries: the scale as it would stand without it, and from there on as it stands, with no
 * gas between the two.
 */
export function TakeOut({ transfer, byKg }: { transfer: Transfer; byKg: number }) {
  const { note } = useJob()
  const { transferId: runId, segments } = transfer
  const segment = segments.at(-1)!
  const live = useReading(segment.scaleId, 'weight')
  if (live?.state !== 'live') return null
  const takeOut = () => {
    const weightMg = Math.round(live.value * MG_PER_KG)
    const byMg = Math.round(byKg * MG_PER_KG)
    const { scale, mode, divisionMg, scaleId, accuracyMg } = segment
    note([
      draft('weight-noted', { runId, weightMg: weightMg - byMg, on: segment.openedBy }),
      draft('scale-changed', {
        runId,
        scale,
        mode,
        weightMg,
        valveShut: true,
        ...(divisionMg === null ? {} : { divisionMg }),
        ...(scaleId === null ? {} : { scaleId }),
        ...(accuracyMg === null ? {} : { accuracyMg }),
      }),
    ])
  }
  return (
    <Button variant="outline-danger" onClick={takeOut}>
      Take it out of the sum
    </Button>
  )
}
