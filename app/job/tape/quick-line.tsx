import { TZDate } from '@date-fns/tz'
import { type FormEvent, useState } from 'react'
import { Button, InputGroup } from 'react-bootstrap'
import { useSearchParams } from 'react-router'
import { askAboutWeight, openTransfer } from '#core/tape'
import { serverNow } from '~/tape/device'
import { type Draft, draft } from '~/tape/draft'
import { useReadersUnits } from '~/base/ui/reader'
import { useOnScale } from '../moving/on-scale'
import { Question } from '~/tape/question'
import { useQuestion } from '~/tape/use-question'
import { useJob } from '../field/job-context'
import { parseQuick, QUICK_HELP } from './quick-grammar'
import { useWordsTyped } from '../field/use-figure'

/** One line for everything, for whoever has a keyboard. */
export function QuickLine() {
  const { state, data, note } = useJob()
  const reading = useReadersUnits()
  const [search] = useSearchParams()
  // Carried here from the slide rule: written out, and noted when it is pressed.
  const carried = search.get('line') ?? ''
  const [kept, keep] = useWordsTyped('quick entry')
  const [takenUp, setTakenUp] = useState(carried === '')
  const line = takenUp ? kept : carried
  const [now, setNow] = useState(data.loadedAt)
  const [help, setHelp] = useState(false)
  const setLine = (next: string) => {
    setTakenUp(true)
    keep(next)
    setNow(clock())
  }
  const parse = parseQuick(line, { state, reading, now, todayAt: timeOfToday(data.shop.timeZone, now) })

  const transfer = openTransfer(state)
  const on = useOnScale(transfer)
  const written = parse.kind === 'ready' && parse.at === undefined ? parse.drafts[0]! : undefined
  const weightMg =
    written?.kind === 'weight-noted' ? (written.body as { weightMg: number }).weightMg : undefined
  const { question, mayNote, forget } = useQuestion(
    weightMg,
    (mg) => transfer && on && askAboutWeight(transfer, { at: serverNow(state), weightMg: mg }, on.bounds),
  )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (parse.kind !== 'ready') return
    if (weightMg !== undefined && !mayNote(weightMg)) return
    done(parse.drafts, parse.at)
  }
  const weigh = (mg: number) =>
    done([
      draft('weight-noted', {
        runId: transfer!.transferId,
        weightMg: mg,
        on: transfer!.segments.at(-1)!.openedBy,
      }),
    ])
  const done = (drafts: Draft[], at?: number) => {
    note(drafts, at)
    setLine('')
    forget()
    // Only what stands in the address bar: going there would load the page, and want a connection.
    if (carried) window.history.replaceState(window.history.state, '', window.location.pathname)
  }
  return (
    <form className="quick" onSubmit={submit}>
      <label htmlFor="quick-entry" className="form-label">
        Quick entry
      </label>
      <InputGroup>
        <input
          id="quick-entry"
          className="form-control"
          value={line}
          placeholder={reading.units.weight === 'kg' ? 'w 5.5 kg' : 'w 12 lb 4 oz'}
          onChange={(event) => setLine(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && event.repeat) event.preventDefault()
          }}
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          maxLength={500}
          autoFocus={carried !== ''}
          aria-describedby="quick-echo"
        />
        <Button type="submit" disabled={parse.kind !== 'ready'}>
          Note
        </Button>
        <Button variant="outline-secondary" aria-expanded={help} onClick={() => setHelp(!help)}>
          Help
        </Button>
      </InputGroup>
      <div id="quick-echo" className="echo" aria-live="polite">
        {question && weightMg !== undefined ? (
          <Question asked={question} instead={weigh} confirm={() => weigh(weightMg)} />
        ) : (
          parse.kind === 'ready' && parse.echo
        )}
        {parse.kind === 'wrong' && <span className="field-error">{parse.message}</span>}
        {parse.kind === 'choose' && (
          <>
            <span>Which one?</span>
            {parse.readings.map(({ notation, text }) => (
              <Button key={notation} variant="outline-primary" onClick={() => setLine(text)}>
                {notation}
              </Button>
            ))}
          </>
        )}
      </div>
      {help && (
        <dl className="mb-0">
          {QUICK_HELP.map(([example, what]) => (
            <div key={example}>
              <dt>
                <code>{example}</code>
              </dt>
              <dd className="quiet mb-1">{what}</dd>
            </div>
          ))}
        </dl>
      )}
    </form>
  )
}

const clock = () => Date.now()

function timeOfToday(timeZone: string, now: number) {
  return (hours: number, minutes: number) => {
    const there = new TZDate(now, timeZone)
    there.setHours(hours, minutes, 0, 0)
    return there.getTime()
  }
}
