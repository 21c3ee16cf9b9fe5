import { useState } from 'react'
import { useOutbox } from '~/device/outbox/outbox-context'
import { useTyped } from '~/tape/typed'
import { measure, type MeasureKind } from '~/base/ui/measure'
import { useReadersUnits } from '~/base/ui/reader'
import { useJob } from './job-context'

/** Words being typed in this job: kept until they are noted. */
export function useWordsTyped(field: string) {
  const { data } = useJob()
  const { outbox } = useOutbox()
  return useTyped(`${outbox.userId} ${data.jobId}`, field)
}

/** A figure being typed: its text, its value once it has one reading, and the props of its field. */
export function useFigure(kind: MeasureKind, name: string) {
  const [text, setText] = useWordsTyped(name)
  const [asked, setAsked] = useState(false)
  const reading = useReadersUnits()
  const measured = measure(kind, text, reading)
  const value = measured.kind === 'one' ? measured.value : undefined
  return {
    measured,
    value,
    empty: measured.kind === 'empty',
    /** Says what is missing when the value is wanted and there is none. */
    want: (): number | undefined => {
      setAsked(value === undefined)
      return value
    },
    setText,
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
