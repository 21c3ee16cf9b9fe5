import { useState } from 'react'
import { Button } from 'react-bootstrap'
import type { TapeLine } from '#core/tape'
import { clockTime, day, dayAndTime } from '~/ui/time'
import { Correction, mayCorrect } from './correction'
import { useWords } from './use-words'
import { useJob } from './job-context'
import { QuickLine } from './quick-line'

/** Everything that was noted, the newest first, with the line to note more. */
export function TapeList({ waiting }: { waiting: ReadonlySet<string> }) {
  const { state, data, closed } = useJob()
  const [mending, setMending] = useState<TapeLine>()
  const lines = state.lines.toReversed()
  return (
    <section className="tape sheet" aria-label="Tape">
      {!closed && <QuickLine />}
      <h2 className="h3">Tape</h2>
      {lines.length === 0 && <p className="quiet">Nothing is noted yet.</p>}
      {/* A region that scrolls must be reachable with the keyboard. */}
      <ol tabIndex={0} aria-label="Entries, newest first">
        {lines.map((line, i) => (
          <Line
            key={line.entry.entryId}
            line={line}
            waits={waiting.has(line.entry.entryId)}
            newDay={dayOf(line) !== (i > 0 ? dayOf(lines[i - 1]!) : '')}
            mend={data.mayWrite && mayCorrect(line) ? () => setMending(line) : undefined}
          />
        ))}
      </ol>
      {mending && <Correction line={mending} done={() => setMending(undefined)} />}
    </section>
  )

  function dayOf(line: TapeLine) {
    return day(line.entry.at, data.shop.timeZone)
  }
}

interface LineProps {
  line: TapeLine
  waits: boolean
  newDay: boolean
  mend: (() => void) | undefined
}

function Line({ line, waits, newDay, mend }: LineProps) {
  const { data } = useJob()
  const words = useWords()
  const { entry, body, struck, correctedBy } = line
  const { timeZone } = data.shop
  const by = entry.userId ? data.people[entry.userId] : undefined
  return (
    <>
      {newDay && (
        <li className="quiet">
          <span style={{ gridColumn: '1 / -1' }}>{day(entry.at, timeZone)}</span>
        </li>
      )}
      <li>
        <time
          dateTime={new Date(entry.at).toISOString()}
          title={dayAndTime(entry.at, timeZone) + (by ? `, ${by}` : '')}
        >
          {clockTime(entry.at, timeZone)}
        </time>
        <span className={struck ? 'struck' : undefined}>
          {words(entry.kind, body)} {waits && <span className="tag tag-amber">waiting</span>}
          {correctedBy && !struck && <span className="quiet"> (was: {words(entry.kind, entry.body)})</span>}
        </span>
        {mend ? (
          <Button
            variant="link"
            className="mend"
            onClick={mend}
            aria-label={`Correct: ${words(entry.kind, body)}`}
          >
            Correct
          </Button>
        ) : (
          <span />
        )}
      </li>
    </>
  )
}
