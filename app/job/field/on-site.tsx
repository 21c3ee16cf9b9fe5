import type { ReactNode } from 'react'
import { atmospherePa } from '#core/units'
import { ReaderContext, useReadersUnits } from '~/base/ui/reader'

/** Gauges read and written as they are at the height of the system: on the job's page and on its papers. */
export function OnSite({ altitudeM, children }: { altitudeM: number | undefined; children: ReactNode }) {
  const reading = useReadersUnits()
  return (
    <ReaderContext value={altitudeM ? { ...reading, atmospherePa: atmospherePa(altitudeM) } : reading}>
      {children}
    </ReaderContext>
  )
}
