import { Button } from 'react-bootstrap'
import type { Entry } from '#core/tape'
import type { Reason } from '#core/verdict'
import { REASON_WORDS } from '~/wording/en'
import { useEntryWords } from './entry-words'

interface RefusedProps {
  refused: { entry: Entry; reasons: Reason[] }[]
  dismiss: (entryId: string) => void
}

/** Decisions that the server did not take, with what was noted and why. */
export function RefusedEntries({ refused, dismiss }: RefusedProps) {
  const words = useEntryWords()
  return refused.map(({ entry, reasons }) => (
    <div key={entry.entryId} className="verdict verdict-bad" role="alert">
      <strong>Not taken: {words(entry.kind, entry.body)}</strong>
      <ul>
        {reasons.map(({ code }) => (
          <li key={code}>{REASON_WORDS[code] ?? code}</li>
        ))}
      </ul>
      <Button variant="outline-secondary" className="mt-2" onClick={() => dismiss(entry.entryId)}>
        Understood
      </Button>
    </div>
  ))
}
