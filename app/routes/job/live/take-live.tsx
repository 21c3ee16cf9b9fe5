import { useState } from 'react'
import { Button } from 'react-bootstrap'
import type { ReadOff } from '#core/tape'
import { useReading } from '~/samples/live-context'
import { typed } from '~/ui/measure'
import { useReadersUnits, useShow } from '~/ui/reader'
import type { useFigure } from '../stages/use-figure'
import { asNoted } from './in-units'
import { sampleOf } from './note-live'

/** A weight that may be taken from a live scale into its field: as long as it is not changed there, it is the scale's. */
export function useTaken(figure: ReturnType<typeof useFigure>, kitId: string | undefined) {
  const reading = useReading(kitId, 'weight')
  const units = useReadersUnits()
  const [kept, setKept] = useState<{ value: number; from: ReadOff }>()
  const valueMg = reading?.state === 'live' ? asNoted('weight', reading.value, units)!.value : undefined
  return {
    valueMg,
    take: () => {
      if (valueMg === undefined || !reading) return
      figure.setText(typed('weight', valueMg, units))
      setKept({ value: valueMg, from: sampleOf(reading) })
    },
    /** The sample that a weight was read off; undefined: it was typed. */
    from: (weightMg: number) => (kept && Math.abs(kept.value - weightMg) < 1_000 ? kept.from : undefined),
  }
}

/** The key that takes it. */
export function TakeLive({ taken }: { taken: ReturnType<typeof useTaken> }) {
  const show = useShow()
  if (taken.valueMg === undefined) return null
  return (
    <div className="row-of">
      <Button type="button" variant="outline-primary" className="live-key" onClick={taken.take}>
        <span className="live-dot" aria-hidden /> Take{' '}
        <strong className="digits">{show('weight', taken.valueMg)}</strong> from the scale
      </Button>
    </div>
  )
}
