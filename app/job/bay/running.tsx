import { Check, Circle, CircleDot, Hand, type LucideIcon } from 'lucide-react'
import { useState } from 'react'
import { Button } from 'react-bootstrap'
import type { HandAnswer, PlannedStep } from '#core/programme'
import { holdVerdict, openTransfer, type Programme } from '#core/tape'
import { useLive } from '~/device/live/live-context'
import { useShow } from '~/base/ui/reader'
import { clockTime, duration } from '~/base/ui/time'
import { VerdictCard } from '~/words/verdict/verdict-card'
import { ASK_WORDS, STEP_WORDS } from '~/words/en'
import { useJob } from '../field/job-context'
import { useServerNow } from '~/tape/use-server-now'
import { useStation } from './use-station'

/** A station that has said nothing for so long may have no power or no network, ms. */
const SILENT_MS = 60_000

/** What the station is at: the hand that it waits for first, then the step in hand, then all of them. */
export function Running({ programme }: { programme: Programme }) {
  const { data, state, closed } = useJob()
  const { tell, busy, error } = useStation()
  const nowMs = useServerNow(state) ?? programme.begunAt
  const station = data.bay?.stations.find((each) => each.kitId === programme.kitId)
  const live = useLive()
  // By what the page was loaded with, by what the station has written since, and by what it says all the while.
  const heardAt = Math.max(
    programme.begunAt,
    station?.heardAt ? new Date(station.heardAt).getTime() : 0,
    state.clocks[programme.deviceId]?.time ?? 0,
    live?.store.saidAt(programme.deviceId) ?? 0,
  )
  const speed = Number(data.standIns.find((each) => each.deviceId === programme.deviceId)?.state?.speed) || 1
  const silentMs = nowMs - heardAt
  const { asks } = programme
  // Pressed and taken: it is seen a moment later that it was.
  const [given, setGiven] = useState('')
  const give = async (askId: string, say: HandAnswer) => {
    if (await tell('hand', { sent: JSON.stringify({ askId, say }) })) setGiven(askId)
  }
  return (
    <>
      <div className="spread">
        <h2 className="h3 mb-0">{station?.label ?? 'The station'} is at it</h2>
        {station?.standIn && (
          <span className="tag">simulated{speed > 1 && `, ${speed} times as fast as life`}</span>
        )}
      </div>
      {asks ? (
        <div className="bay-ask" role="alert">
          <p className="what">
            <Hand size={26} aria-hidden className="icon" /> {ASK_WORDS[asks.ask].what}
          </p>
          <p className="mb-0">{ASK_WORDS[asks.ask].why}</p>
          {asks.ask === 'look-at-hold' && <LookedAt />}
          {!closed && (
            <div className="key-grid">
              <Button
                className="btn-big"
                disabled={busy || given === asks.askId}
                onClick={() => void give(asks.askId, 'done')}
              >
                {ASK_WORDS[asks.ask].done}
              </Button>
              <Button
                className="btn-big"
                variant="outline-danger"
                disabled={busy || given === asks.askId}
                onClick={() => void give(asks.askId, 'no')}
              >
                {ASK_WORDS[asks.ask].no}
              </Button>
            </div>
          )}
          <span className="quiet">waits since {clockTime(asks.at, data.shop.timeZone)}</span>
        </div>
      ) : (
        <Now programme={programme} nowMs={nowMs} />
      )}
      {error && (
        <p className="field-error mb-0" role="alert">
          {error}
        </p>
      )}
      {silentMs > SILENT_MS && (
        <p className="mb-0 field-error" role="status">
          Nothing was heard of it for {duration(silentMs / 1_000)}. Look at its power and network: without
          power it stops by itself, shut, and says so when it is back.
        </p>
      )}
      <Steps programme={programme} />
      {!closed && <Stop silent={silentMs > SILENT_MS} tell={tell} busy={busy} />}
    </>
  )
}

/** The hold that is to be looked at: from where to where, in what time, and what that says. */
function LookedAt() {
  const { state } = useJob()
  const hold = state.holds.findLast((each) => each.endedAt !== undefined)
  return hold ? <VerdictCard verdict={holdVerdict(state, hold)} /> : null
}

function Now({ programme, nowMs }: { programme: Programme; nowMs: number }) {
  const { state } = useJob()
  const show = useShow()
  const { course, steps } = programme
  const at = course.findLast((each) => each.doneAt === undefined)
  if (!at) return <p className="mb-0">It has its order, and begins.</p>
  const planned = steps.find((each) => each.step === at.step)
  const sinceS = Math.max(0, (nowMs - at.beganAt) / 1_000)
  const transfer = openTransfer(state)
  return (
    <div>
      <div className="quiet">Now</div>
      <div className="hero">{STEP_WORDS[at.step]}</div>
      <div className="quiet">
        {[
          `for ${duration(sinceS)}`,
          planned?.forS && `of ${duration(planned.forS)}`,
          transfer &&
            Math.abs(transfer.amountMg) > 0 &&
            `${show('weight', Math.abs(transfer.amountMg))} so far`,
        ]
          .filter(Boolean)
          .join(' ')}
      </div>
    </div>
  )
}

const ICONS: Record<'done' | 'now' | 'later', LucideIcon> = { done: Check, now: CircleDot, later: Circle }
const SAYS = { done: 'done', now: 'now', later: 'to come' }

/** All steps with what they are to do, and how long those took that are done. */
export function Steps({ programme: { steps, course } }: { programme: Programme }) {
  return (
    <ol className="bay-steps">
      {steps.map((planned) => {
        const own = course.findLast((each) => each.step === planned.step)
        const is = own ? (own.doneAt === undefined ? 'now' : 'done') : 'later'
        const Icon = ICONS[is]
        return (
          <li key={planned.step} className={is}>
            <Icon size={18} aria-label={SAYS[is]} className="icon" /> <span>{STEP_WORDS[planned.step]}</span>{' '}
            <span className="quiet">
              <Amount planned={planned} />
              {own?.doneAt !== undefined && ` · took ${duration((own.doneAt - own.beganAt) / 1_000)}`}
            </span>
          </li>
        )
      })}
    </ol>
  )
}

function Amount({
  planned: { forS, restS, massMg, volumeMl, withDrained, purityPct },
}: {
  planned: PlannedStep
}) {
  const show = useShow()
  return [
    forS !== undefined && duration(forS),
    restS !== undefined && `rest ${duration(restS)}`,
    massMg !== undefined && show('weight', massMg),
    volumeMl !== undefined && (volumeMl > 0 || !withDrained) && show('volume', volumeMl),
    withDrained && 'what came out',
    purityPct !== undefined && `${purityPct} % or more`,
  ]
    .filter((each) => each !== false && each !== undefined)
    .join(', ')
}

interface StopProps {
  silent: boolean
  busy: boolean
  tell: (act: string, fields: Record<string, string>) => Promise<boolean>
}

function Stop({ silent, busy, tell }: StopProps) {
  const [sure, setSure] = useState(false)
  if (!sure)
    return (
      <div>
        <Button variant="outline-danger" onClick={() => setSure(true)}>
          Stop the programme
        </Button>
      </div>
    )
  return (
    <div className="row-of">
      <Button
        variant="danger"
        disabled={busy}
        onClick={() => void tell('stop', {}).then(() => setSure(false))}
      >
        Stop: it shuts its valves and weighs
      </Button>
      {silent && (
        <Button variant="outline-danger" disabled={busy} onClick={() => void tell('leave', {})}>
          Leave it alone, and go on by hand
        </Button>
      )}
      <Button variant="outline-secondary" onClick={() => setSure(false)}>
        Let it go on
      </Button>
    </div>
  )
}
