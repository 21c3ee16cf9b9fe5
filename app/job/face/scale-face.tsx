import { type FormEvent, useEffect, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { askAboutWeight, PURGE_BEGUN, type ReadOff, stepDone, type Transfer } from '#core/tape'
import { serverNow } from '~/tape/device'
import { type Draft, draft, readOff } from '~/tape/draft'
import { typed, unitBeside } from '~/base/ui/measure'
import { MeasureInput, Readings } from '~/base/ui/measure-field'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { DOUBT_WORDS, QUESTION_WORDS } from '~/words/en'
import { useJob } from '../field/job-context'
import { pressureDraft } from '../field/pressure-draft'
import { useFigure, useWordsTyped } from '../field/use-figure'
import { StripTap } from '../chart/strip-tap'
import { useOnScale } from '../moving/on-scale'
import { Figures, LimitBar, useAlarms } from './figures'
import { LastNotes } from './last-notes'
import { LiveAnswer, LOW_ASKED, useAsked } from '../live/live-answer'
import { useNoteLive } from '../live/note-live'
import { OtherScale } from './other-scale'
import { Pad } from './pad'
import { ChargeLine } from '../charge/charge-line'
import { StateLine } from '../gas/watch/state-line'
import { Question } from '~/tape/question'
import { ReadingKeys, READINGS } from './readings'
import { useQuestion } from '~/tape/use-question'

/** Set while the last cylinder was ended in order to go on with the next. */
export const WANTS_NEXT = 'wants the next cylinder'

/** What the pad writes: the next weight, the last one, or a reading by its label. */
type Asked = 'weigh' | 'end' | { label: string }

/** The minutes when gas moves: one figure, one field, one key. */
export function ScaleFace({ transfer, leave }: { transfer: Transfer; leave: () => void }) {
  const { closed } = useJob()
  const [scale, setScale] = useState(false)
  const [asked, setAsked] = useState<Asked>('weigh')
  const [, setWantsNext] = useWordsTyped(WANTS_NEXT)
  const swipe = useSwipe(leave)
  const alarms = useAlarms(transfer)
  const finish = (next: boolean) => {
    setWantsNext(next ? 'yes' : '')
    setScale(false)
    setAsked('end')
  }
  return (
    <div className="scale-face" {...swipe}>
      <div className="face-leave">
        <StripTap />
        <Button variant="outline-secondary" onClick={leave}>
          Whole job
        </Button>
      </div>
      <Figures transfer={transfer} />
      <div className="face-limit">
        {!closed &&
          (transfer.use === 'recover' ? (
            <StateLine transfer={transfer} />
          ) : (
            <ChargeLine transfer={transfer} />
          ))}
        {transfer.use === 'recover' && <LimitBar transfer={transfer} />}
        {alarms.map(({ text, action }) => (
          <div key={text} className="face-alarm" role="alert">
            <span>{text}</span>
            {action && !closed && asked !== 'end' && (
              <Button variant="danger" onClick={() => finish(action === 'next-cylinder')}>
                {action === 'next-cylinder' ? 'Next cylinder' : 'Finish'}
              </Button>
            )}
          </div>
        ))}
        {alarms.length === 0 && <LastDoubt transfer={transfer} />}
      </div>
      {!closed &&
        (scale ? (
          <OtherScale transfer={transfer} done={() => setScale(false)} />
        ) : (
          <Entering
            key={transfer.transferId}
            transfer={transfer}
            asked={asked}
            setAsked={setAsked}
            finish={finish}
            otherScale={() => setScale(true)}
          />
        ))}
    </div>
  )
}

interface EnteringProps {
  transfer: Transfer
  asked: Asked
  setAsked: (asked: Asked) => void
  finish: (next: boolean) => void
  otherScale: () => void
}

function Entering({ transfer, asked, setAsked, finish, otherScale }: EnteringProps) {
  const { state, note } = useJob()
  const show = useShow()
  const reading = useReadersUnits()
  const input = useRef<HTMLInputElement>(null)
  const point =
    typeof asked === 'object' ? READINGS.find((each) => each.label === asked.label)!.asked : undefined
  const kind = point?.kind ?? 'weight'
  const place = typeof asked === 'object' ? asked.label : asked
  const figure = useFigure(kind, `${transfer.transferId} ${place}`)
  const hose = useFigure('weight', `${transfer.transferId} hose`)
  const on = useOnScale(transfer)
  const { transferId: runId, use, segments } = transfer
  const segment = segments.at(-1)!
  const { question, mayNote, forget } = useQuestion(
    kind === 'weight' ? figure.value : undefined,
    (weightMg) => on && askAboutWeight(transfer, { at: serverNow(state), weightMg }, on.bounds),
  )

  useEffect(() => {
    // Where the next number goes; a field that somebody types in keeps the focus.
    const active = document.activeElement
    if (!active || active === document.body || active.closest('.scale-face')) input.current?.focus()
  }, [asked])

  const wrote = () => {
    figure.clear()
    forget()
    setAsked('weigh')
    input.current?.focus()
  }
  const lowNow = useNoteLive(LOW_ASKED)
  const weightNow = useNoteLive({ kind: 'weight', scaleId: segment.scaleId })
  const purging = stepDone(state, PURGE_BEGUN, transfer.startedAt)
  const live = useAsked(point ? { kind: 'reading', point } : { kind: 'weight', scaleId: segment.scaleId })
  const write = (weightMg: number, from?: ReadOff) => {
    if (asked === 'end') {
      const hoseMg = hose.empty ? undefined : hose.want()
      if (!hose.empty && hoseMg === undefined) return
      const left = use === 'charge' && hoseMg !== undefined ? { hoseMg: Math.max(0, hoseMg) } : {}
      // Where a gauge speaks, what it read at the stop is what the rebound is measured from.
      note([
        ...(use === 'recover' ? lowNow() : []),
        readOff(draft('run-ended', { runId, weightMg, on: segment.openedBy, ...left }), from),
      ])
      hose.clear()
    } else note([readOff(draft('weight-noted', { runId, weightMg, on: segment.openedBy }), from)])
    wrote()
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const value = figure.want()
    if (value === undefined) return input.current?.focus()
    if (!point) return mayNote(value) ? write(value) : input.current?.focus()
    note([readingDraft(value)])
    wrote()
  }
  const readingDraft = (value: number): Draft =>
    point!.kind === 'pressure'
      ? pressureDraft(point!.point, value, reading)
      : draft('temperature-noted', { point: point!.point, tempK: value })
  const zeroedAgain = (weightMg: number) => {
    const { scale, divisionMg, scaleId, accuracyMg } = segment
    note([
      draft('scale-changed', {
        runId,
        scale,
        mode: 'net',
        weightMg,
        ...(divisionMg === null ? {} : { divisionMg }),
        ...(scaleId === null ? {} : { scaleId }),
        ...(accuracyMg === null ? {} : { accuracyMg }),
      }),
    ])
    wrote()
  }
  const label = point
    ? (asked as { label: string }).label
    : asked === 'end'
      ? 'Final weight on the scale'
      : 'The scale shows'
  const { measured } = figure
  return (
    <>
      <form className="face-entry" onSubmit={submit}>
        <div className="face-field">
          <label htmlFor="face-figure">
            {label}
            {segment.mode === 'net' && !point && ', net'}
          </label>
          <input
            id="face-figure"
            ref={input}
            className="form-control"
            value={figure.field.value}
            onChange={(event) => figure.setText(event.target.value)}
            onKeyDown={(event) => {
              // A key that is held down notes once, and answers no question.
              if (event.key === 'Enter' && event.repeat) event.preventDefault()
              if (event.key !== 'Escape') return
              if (asked === 'weigh') event.currentTarget.blur()
              else setAsked('weigh')
            }}
            inputMode="none"
            autoComplete="off"
            autoCapitalize="off"
            spellCheck={false}
            maxLength={40}
            aria-describedby="face-echo"
          />
          <span className="unit">{unitBeside(kind, reading.units)}</span>
        </div>
        <div id="face-echo" className="face-echo" aria-live="polite">
          {question && figure.value !== undefined ? (
            <Question
              asked={question}
              instead={(weightMg) => write(weightMg)}
              confirm={() => write(figure.value!)}
              zeroedAgain={question.code === 'zeroed-again' ? () => zeroedAgain(figure.value!) : undefined}
              withMinus={question.code === 'minus-missing' ? () => write(-figure.value!) : undefined}
            />
          ) : measured.kind === 'choose' ? (
            <Readings measured={measured} choose={figure.setText} />
          ) : measured.kind === 'wrong' ? (
            <span className="field-error">{measured.message}</span>
          ) : measured.kind === 'one' ? (
            measured.echo
          ) : figure.field.error ? (
            <span className="field-error">{figure.field.error}</span>
          ) : live ? (
            <LiveAnswer
              asked={live}
              ends={asked === 'end'}
              take={(value, from) => {
                // What cannot be is asked about, however it came: it goes into the field, where the question stands.
                if (
                  !point &&
                  on &&
                  askAboutWeight(transfer, { at: serverNow(state), weightMg: value }, on.bounds)
                )
                  return figure.setText(typed('weight', value, reading))
                if (!point) return write(value, from)
                note([readOff(readingDraft(value), from)])
                wrote()
              }}
            />
          ) : asked === 'end' ? (
            <Button type="button" onClick={() => write(segment.lastMg)}>
              It still shows {show('weight', segment.lastMg)}
            </Button>
          ) : (
            <span className="quiet">
              Scale showed {show('weight', segment.lastMg)} {segment.mode === 'net' && 'net'}
            </span>
          )}
        </div>
        {asked === 'end' && (
          <p className="quiet mb-0 face-hint">
            {use === 'charge' ? (
              'Cylinder shut, hoses swallowed.'
            ) : purging ? (
              'It purges: note the final weight once the scale stands.'
            ) : (
              <>
                After the self-purge: machine and hoses still hold 30 to 350 g.{' '}
                <Button
                  variant="link"
                  className="p-0"
                  onClick={() => note([...weightNow(), draft('step-done', { step: PURGE_BEGUN })])}
                >
                  The purge begins now
                </Button>
              </>
            )}
          </p>
        )}
        {asked === 'end' && use === 'charge' && (
          <MeasureInput {...hose.field} label="Left in the hoses (may stay empty)" />
        )}
        <Pad
          kind={kind}
          units={reading.units}
          minus={kind === 'temperature' || (kind === 'weight' && segment.mode === 'net')}
          text={figure.field.value}
          setText={figure.setText}
          input={input}
          action={
            asked === 'end'
              ? { label: 'End', name: 'End this transfer' }
              : point
                ? { label: 'Note', name: 'Note the reading' }
                : { label: 'Note', name: 'Note weight' }
          }
        />
      </form>
      <ReadingKeys
        transfer={transfer}
        chosen={point && (asked as { label: string }).label}
        choose={(next) => setAsked(next === undefined ? 'weigh' : { label: next })}
      />
      <LastNotes
        transfer={transfer}
        giveBack={(text) => {
          setAsked('weigh')
          if (asked === 'weigh' && figure.empty) figure.setText(text)
        }}
      />
      <div className="face-actions">
        {asked === 'end' ? (
          <Button variant="outline-secondary" onClick={() => setAsked('weigh')}>
            Back
          </Button>
        ) : (
          <>
            <Button variant="outline-primary" onClick={() => finish(true)}>
              {use === 'recover' ? 'Next cylinder' : 'Next source'}
            </Button>
            <Button variant="outline-primary" onClick={() => finish(false)}>
              Finish …
            </Button>
            <Button variant="outline-secondary" onClick={otherScale}>
              Other scale …
            </Button>
          </>
        )}
      </div>
    </>
  )
}

/** What the last weight may be instead of what it says, as long as it is the last. */
function LastDoubt({ transfer }: { transfer: Transfer }) {
  const { doubt } = transfer.weighings.at(-1)!
  if (!doubt) return null
  return (
    <p className="field-error mb-0 face-doubt" role="status" title={DOUBT_WORDS[doubt]}>
      {QUESTION_WORDS[doubt]} If it was a slip, undo it.
    </p>
  )
}

const SWIPE_PX = 80

/** A finger drawn across the face, either way, leads to the whole job. */
function useSwipe(leave: () => void) {
  const from = useRef<{ x: number; y: number }>(undefined)
  return {
    onTouchStart: (event: React.TouchEvent) => {
      const touch = event.touches[0]!
      from.current = event.touches.length === 1 ? { x: touch.clientX, y: touch.clientY } : undefined
    },
    onTouchEnd: (event: React.TouchEvent) => {
      const touch = event.changedTouches[0]!
      if (!from.current) return
      const [x, y] = [Math.abs(touch.clientX - from.current.x), Math.abs(touch.clientY - from.current.y)]
      if (x > SWIPE_PX && x > 2 * y) leave()
    },
  }
}
