import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { askAboutWeight, kitAt, openTransfer } from '#core/tape'
import { type LiveReading, readingOf, useLive } from '~/device/live/live-context'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { clockSeconds } from '~/base/ui/time'
import { CHANNEL_WORDS, QUESTION_WORDS } from '~/words/en'
import { serverNow } from '~/tape/device'
import { useOnScale } from '../moving/on-scale'
import { useJob } from '../field/job-context'
import { asNoted } from '~/samples/in-units'
import { useLiveNet } from '../moving/live-net'
import { noteOf } from './note-live'

/** The instruments of this job that speak for themselves: what each says, what it means, and one key to note it. */
export function LiveBoard() {
  const { state } = useJob()
  const live = useLive()
  const station = kitAt(state, ['station'])?.kitId
  // A station turns its gauges on and off by itself: one that is shut off is not missed.
  const own = (live?.sources ?? []).filter(
    (each) => each.inUse && (each.kitId !== station || speaks(readingOf(live!, each.kitId, each.channel))),
  )
  if (!live || own.length === 0) return null
  return (
    <section className="live-board" aria-label="Live instruments">
      {own.map((source) => (
        <Tile
          key={`${source.deviceId} ${source.channel}`}
          name={`${source.kit}, ${CHANNEL_WORDS[source.channel]}`}
          reading={readingOf(live, source.kitId, source.channel)}
          told={live.store.told()}
        />
      ))}
    </section>
  )
}

const speaks = (reading: LiveReading | undefined) => reading !== undefined && reading.state !== 'silent'

interface TileProps {
  name: string
  reading: LiveReading | undefined
  /** Whether what was said before has been told: until then nothing is not silence. */
  told: boolean
}

function Tile({ name, reading, told }: TileProps) {
  const job = useJob()
  const units = useReadersUnits()
  const text = useLiveText()
  const [noted, setNoted] = useState('')
  const { timeZone } = job.data.shop
  const question = useWeightQuestion(reading)
  if (!reading)
    return (
      <div className={told ? 'live-tile silent' : 'live-tile'}>
        <span className="quiet">{name}</span>
        <strong className="digits">–</strong>
        <span className="what">{told ? 'says nothing: type what it shows' : 'listening …'}</span>
      </div>
    )
  const doubtful = question && question.source === reading.source
  const entry = job.closed || doubtful ? undefined : noteOf(reading, job, units)
  const shown = text(reading)
  return (
    <div className={`live-tile ${reading.state}`}>
      <span className="quiet">{name}</span>
      <strong className="digits">{shown}</strong>
      {reading.state === 'silent' ? (
        <span className="what" role="status">
          silent since {clockSeconds(reading.at, timeZone)}: type what it shows
        </span>
      ) : reading.state === 'nonsense' ? (
        <span className="what" role="status">
          jumps about: look at it, and type what it shows
        </span>
      ) : doubtful ? (
        <span className="what" role="status">
          {QUESTION_WORDS[question.code]}
        </span>
      ) : (
        <Means reading={reading} noted={noted} />
      )}
      {entry && reading.state === 'live' && (
        <Button
          variant="outline-primary"
          aria-label={`Note ${name}`}
          onClick={() => {
            job.note([entry])
            setNoted(`noted ${shown}`)
            setTimeout(() => setNoted(''), 2_500)
          }}
        >
          Note
        </Button>
      )}
    </div>
  )
}

/** A weight that cannot be is not noted unasked: the scale face asks. */
function useWeightQuestion(reading: LiveReading | undefined) {
  const { state } = useJob()
  const units = useReadersUnits()
  const transfer = openTransfer(state)
  const on = useOnScale(transfer)
  if (!reading || !transfer || !on || reading.source.channel !== 'weight') return undefined
  if (transfer.segments.at(-1)!.scaleId !== reading.source.kitId) return undefined
  const weightMg = asNoted('weight', reading.value, units)!.value
  const asked = askAboutWeight(transfer, { at: serverNow(state), weightMg }, on.bounds)
  return asked && { code: asked.code, source: reading.source }
}

/** Beside the raw scale what it means. */
function Means({ reading, noted }: { reading: LiveReading; noted: string }) {
  const { state } = useJob()
  const show = useShow()
  const net = useLiveNet(reading)
  if (noted) return <span className="what quiet digits">{noted}</span>
  if (net === undefined) return null
  return (
    <span className="what quiet digits">
      {show('weight', net)} {openTransfer(state)!.use === 'recover' ? 'in, this pull' : 'charged'}
    </span>
  )
}

/** A live value in the reader's units. */
export function useLiveText() {
  const show = useShow()
  const units = useReadersUnits()
  return ({ source, value }: LiveReading): string => {
    const noted = asNoted(source.channel, value, units)
    if (noted) return show(noted.kind, noted.value)
    return source.channel === 'purity' ? `${(100 * value).toFixed(1)} %` : String(value)
  }
}
