import { createContext, use } from 'react'
import { formatRate } from '#core/units'
import { DEFAULT_PREFERENCES } from '../session/preferences'
import { type MeasureKind, type ReadersUnits, show } from './measure'

/** In which units the person reads; the atmosphere of the place where it is known. */
export const ReaderContext = createContext<ReadersUnits>({ units: DEFAULT_PREFERENCES.units })

export function useReadersUnits(): ReadersUnits {
  return use(ReaderContext)
}

/** Shows values in the reader's units; a gauge's with the atmosphere that it was read in, where that is known. */
export function useShow() {
  const reading = useReadersUnits()
  return (kind: MeasureKind, value: number, atmospherePa?: number) =>
    show(kind, value, atmospherePa === undefined ? reading : { ...reading, atmospherePa })
}

/** How fast a weight moves, kg/s, in the reader's units. */
export function useShowRate() {
  const { units } = useReadersUnits()
  return (kgPerS: number) => formatRate(kgPerS, units.weight)
}

/** One value in the reader's units, in figures that line up. */
export function Value({ kind, of }: { kind: MeasureKind; of: number }) {
  return <span className="digits">{useShow()(kind, of)}</span>
}
