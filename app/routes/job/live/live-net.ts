import { doubtOf, movedWhen, openTransfer, type Transfer } from '#core/tape'
import { type LiveReading, useReading } from '~/samples/live-context'
import { serverNow } from '~/tape/device'
import { useJob } from '../job-context'
import { asNoted } from '~/samples/in-units'

/** What has moved by now, mg, as the live scale has it; undefined: no transfer runs on it. */
export function useLiveNet(reading: LiveReading | undefined): number | undefined {
  const { state } = useJob()
  const transfer = openTransfer(state)
  const segment = transfer?.segments.at(-1)
  if (
    !reading ||
    !transfer ||
    segment?.scaleId !== reading.source.kitId ||
    reading.source.channel !== 'weight'
  )
    return undefined
  return liveNetMg(transfer, asNoted('weight', reading.value, {})!.value, serverNow(state))
}

/**
 * What has moved when the scale reads so much; undefined: it reads what cannot be (zeroed in mid-run, the wrong way), and
 * what was noted last stands until somebody has looked.
 */
export function liveNetMg(transfer: Transfer, liveMg: number, at: number): number | undefined {
  const doubt = doubtOf(transfer, { at, weightMg: liveMg })
  // A long way since the last note is what a live scale is for.
  if (doubt && doubt !== 'jump') return undefined
  const { use, segments, amountMg } = transfer
  const segment = segments.at(-1)!
  return amountMg + movedWhen(use, segment, liveMg) - movedWhen(use, segment, segment.lastMg)
}

/** What a running transfer has moved since its last note, mg, by its live scale; 0 where none speaks. */
export function useMovedSince(transfer: Transfer | undefined): number {
  const reading = useReading(transfer?.segments.at(-1)?.scaleId, 'weight')
  const net = useLiveNet(reading?.state === 'live' ? reading : undefined)
  return net === undefined || !transfer ? 0 : net - transfer.amountMg
}
