import { useState } from 'react'
import { measure, type MeasureKind } from '~/ui/measure'
import { useReadersUnits } from '~/ui/reader'

/** A figure being typed: its text, its value once it has one reading, and the props of its field. */
export function useFigure(kind: MeasureKind, initial = '') {
  const [text, setText] = useState(initial)
  const [asked, setAsked] = useState(false)
  const reading = useReadersUnits()
  const measured = measure(kind, text, reading)
  const value = measured.kind === 'one' ? measured.value : undefined
  return {
    value,
    empty: measured.kind === 'empty',
    /** Says what is missing when the value is wanted and there is none. */
    want: (): number | undefined => {
      setAsked(value === undefined)
      return value
    },
    clear: () => {
      setText('')
      setAsked(false)
    },
    field: {
      kind,
      value: text,
      onChange: setText,
      error: asked && measured.kind === 'empty' ? 'Enter what the instrument reads.' : undefined,
    },
  }
}
