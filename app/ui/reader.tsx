import { createContext, use } from 'react'
import { DEFAULT_PREFERENCES } from '~/session/preferences'
import { type MeasureKind, type Reading, show } from './measure'

/** In which units the person reads; the atmosphere of the place where it is known. */
export const ReaderContext = createContext<Reading>({ units: DEFAULT_PREFERENCES.units })

export function useReading(): Reading {
  return use(ReaderContext)
}

/** Shows values in the reader's units. */
export function useShow() {
  const reading = useReading()
  return (kind: MeasureKind, value: number) => show(kind, value, reading)
}

/** One value in the reader's units, in figures that line up. */
export function Value({ kind, of }: { kind: MeasureKind; of: number }) {
  return <span className="digits">{useShow()(kind, of)}</span>
}
