import { useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import { bodyToday, type TapeLine, type WeighingDoubt } from '#core/tape'
import { clockTime, day, dayAndTime } from '~/base/ui/time'
import { DOUBT_TAGS, DOUBT_WORDS } from '~/words/en'
import { Correction, mayCorrect } from './correction'
import { useWords } from '../field/use-words'
import { useJob } from '../field/job-context'
import { QuickLine } from './quick-line'

/** Everything that was noted, the newest first, with the line to note more. */
interface TapeListProps {
  waiting: ReadonlySet<string>
  /** How many lines lie before those that are here. */
  older: number
  loadOlder: () => void
}

export function TapeList({ waiting, older, loadOlder }: TapeListProps) {
  const { state, data, closed } = useJob()
  const [mending, setMending] = useState<TapeLine>()
  const doubts = useMemo(
    () =>
      new Map(
        state.transfers.flatMap(({ weighings }) =>
          weighings.flatMap(({ entryId, doubt }) => (doubt ? [[entryId, doubt] as const] : [])),
        ),
      ),
    [state.transfers],
  )
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
            doubt={doubts.get(line.entry.entryId)}
            waits={waiting.has(line.entry.entryId)}
            newDay={dayOf(line) !== (i > 0 ? dayOf(lines[i - 1]!) : '')}
            mend={data.mayWrite && mayCorrect(line) ? () => setMending(line) : undefined}
          />
        ))}
      </ol>
      {older > 0 && (
        <Button variant="outline-secondary" onClick={loadOlder}>
          {older} older {older === 1 ? 'line' : 'lines'}
        </Button>
      )}
      {mending && <Correction line={mending} done={() => setMending(undefined)} />}
    </section>
  )

  function dayOf(line: TapeLine) {
    return day(line.time, data.shop.timeZone)
  }
}

interface LineProps {
  line: TapeLine
  doubt: WeighingDoubt | undefined
  waits: boolean
  newDay: boolean
  mend: (() => void) | undefined
}

function Line({ line, doubt, waits, newDay, mend }: LineProps) {
  const { data } = useJob()
  const words = useWords()
  const { entry, time, body, struck, correctedBy } = line
  const { timeZone } = data.shop
  const by = entry.userId ? data.people[entry.userId] : undefined
  return (
    <>
      {newDay && (
        <li className="quiet">
          <span style={{ gridColumn: '1 / -1' }}>{day(time, timeZone)}</span>
        </li>
      )}
      <li>
        <time
          dateTime={new Date(time).toISOString()}
          title={dayAndTime(time, timeZone) + (by ? `, ${by}` : '')}
        >
          {clockTime(time, timeZone)}
        </time>
        <span className={struck ? 'struck' : undefined}>
          {words(entry.kind, body)} {waits && <span className="tag tag-amber">waiting</span>}{' '}
          {entry.sample && (
            <span className="tag" title={`Read off a live instrument, sample ${entry.sample.seq}`}>
              live
            </span>
          )}{' '}
          {doubt && !struck && (
            <span className="tag tag-amber" title={DOUBT_WORDS[doubt]}>
              {DOUBT_TAGS[doubt]}
            </span>
          )}
          {correctedBy && !struck && (
            <span className="quiet"> (was: {words(entry.kind, bodyToday(entry))})</span>
          )}
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
