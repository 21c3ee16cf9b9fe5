import { Button } from 'react-bootstrap'
import { type EntryKind, type TapeLine, type Transfer, versionOf } from '#core/tape'
import { draft } from '~/tape/draft'
import { typed } from '~/base/ui/measure'
import { useReadersUnits } from '~/base/ui/reader'
import { clockTime } from '~/base/ui/time'
import { useWords } from '../field/use-words'
import { useJob } from '../field/job-context'

const SHOWN = 3
const FIGURES: EntryKind[] = ['weight-noted', 'pressure-noted', 'temperature-noted']

interface LastNotesProps {
  transfer: Transfer
  /** A weight that was struck goes back to where it can be put right. */
  giveBack: (text: string) => void
}

/** The last figures noted, each with its undo: a correction, which the tape keeps. */
export function LastNotes({ transfer, giveBack }: LastNotesProps) {
  const { state, data, note, closed } = useJob()
  const words = useWords()
  const reading = useReadersUnits()
  const lines = state.lines
    .filter(({ entry, time }) => FIGURES.includes(entry.kind) && time >= transfer.startedAt)
    .slice(-SHOWN)
    .toReversed()
  const undo = ({ entry, body }: TapeLine) => {
    const { kind, entryId } = entry
    note([draft('correction', { entryId, kind, body: null, reason: 'undone', version: versionOf(kind) })])
    if (kind === 'weight-noted') giveBack(typed('weight', (body as { weightMg: number }).weightMg, reading))
  }
  return (
    <ul className="face-notes" aria-label="Last notes">
      {lines.map((line) => (
        <li key={line.entry.entryId}>
          <span className={line.struck ? 'struck' : undefined}>{words(line.entry.kind, line.body)}</span>
          <span className="when">
            <time dateTime={new Date(line.time).toISOString()}>
              {clockTime(line.time, data.shop.timeZone)}
            </time>
            {line.struck ? (
              <span className="quiet">undone</span>
            ) : (
              !closed && (
                <Button
                  variant="link"
                  aria-label={`Undo: ${words(line.entry.kind, line.body)}`}
                  onClick={() => undo(line)}
                >
                  undo
                </Button>
              )
            )}
          </span>
        </li>
      ))}
    </ul>
  )
}
