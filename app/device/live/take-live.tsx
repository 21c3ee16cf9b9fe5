import { useState } from 'react'
import { Button } from 'react-bootstrap'
import type { ReadOff } from '#core/tape'
import { MG_PER_KG, MG_PER_LB } from '#core/units'
import { sampleOf, useReading } from './live-context'
import type { ReadersUnits } from '~/base/ui/measure'
import { useReadersUnits } from '~/base/ui/reader'
import { asNoted } from '~/samples/in-units'

/** A weight that may be taken from a live scale into its field: as long as it is not changed there, it is the scale's. */
export function useTaken(setText: (text: string) => void, kitId: string | undefined) {
  const reading = useReading(kitId, 'weight')
  const units = useReadersUnits()
  const [kept, setKept] = useState<{ kitId: string; value: number; from: ReadOff }>()
  const valueMg = reading?.state === 'live' ? asNoted('weight', reading.value, units)!.value : undefined
  return {
    valueMg,
    take: () => {
      if (valueMg === undefined || !reading) return
      setText(asScale(valueMg, units))
      setKept({ kitId: reading.source.kitId, value: valueMg, from: sampleOf(reading) })
    },
    /** The sample that a weight was read off; undefined: it was typed. */
    from: (weightMg: number) =>
      kept && kept.kitId === kitId && Math.abs(kept.value - weightMg) < 1_000 ? kept.from : undefined,
  }
}

/** To the thousandth, as a scale shows it: what is noted is what it said, whatever a technician would have read. */
const asScale = (valueMg: number, { units }: ReadersUnits) =>
  units.weight === 'kg' ? `${(valueMg / MG_PER_KG).toFixed(3)} kg` : `${(valueMg / MG_PER_LB).toFixed(3)} lb`

/** The key that takes it. */
export function TakeLive({ taken }: { taken: ReturnType<typeof useTaken> }) {
  const units = useReadersUnits()
  if (taken.valueMg === undefined) return null
  return (
    <div className="row-of">
      <Button type="button" variant="outline-primary" className="live-key" onClick={taken.take}>
        <span className="live-dot" aria-hidden /> Take{' '}
        <strong className="digits">{asScale(taken.valueMg, units)}</strong> from the scale
      </Button>
    </div>
  )
}
