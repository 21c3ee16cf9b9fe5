import { openTransfer, type Transfer } from '#core/tape'
import { liveNetMg } from '#core/watching'
import { type LiveReading, useReading } from '~/device/live/live-context'
import { serverNow } from '~/tape/device'
import { useJob } from '../field/job-context'
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

/** What a running transfer has moved by now, mg, by its live scale; undefined where none speaks. */
export function useNetNow(transfer: Transfer | undefined): number | undefined {
  const reading = useReading(transfer?.segments.at(-1)?.scaleId, 'weight')
  const net = useLiveNet(reading?.state === 'live' ? reading : undefined)
  return transfer && net
}
