import { useEffect, useEffectEvent, useState } from 'react'
import { expectedIn } from '#core/tape'
import { levelPaOf, type LinesOf, type Place } from '#core/watching'
import { keyOf } from '~/device/live/live-store'
import { useLive } from '~/device/live/live-context'
import { serverNow } from '~/tape/device'
import { useReadersUnits } from '~/base/ui/reader'
import { useJob } from '../field/job-context'

const AGAIN_MS = 1_000

/** Where and when something is judged: its reader's air, the charge that is expected, a stand-in's own clock. */
function usePlace(): (nowMs: number) => Place {
  const { state, data } = useJob()
  const { atmospherePa } = useReadersUnits()
  const expected = expectedIn(data, state)
  const speed = Math.max(1, ...data.standIns.map((each) => Number(each.state?.speed) || 1))
  return (nowMs) => ({ atmospherePa, expected, trade: data.system?.trade ?? 'stationary', speed, nowMs })
}

/** Down to here a recovery must go here, absolute Pa. */
export function useLevelPa(): number {
  const { state, data } = useJob()
  return levelPaOf(state, usePlace()(data.loadedAt))
}

/** What instruments of this job say; the weight only from one scale. */
function useLines(scaleId: string | null): LinesOf {
  const live = useLive()
  return (channel) => {
    const wanted = live?.sources.find(
      (each) => each.inUse && each.channel === channel && (channel !== 'weight' || each.kitId === scaleId),
    )
    return wanted ? live!.store.line(keyOf(wanted.deviceId, channel)) : []
  }
}

/**
 * Judged now, every second, and with every note.
 * @param subject what is judged: another one is looked at at once
 */
export function useJudgedNow<Seen>(
  subject: unknown,
  scaleId: string | null,
  judge: (lines: LinesOf, place: Place) => Seen,
): Seen {
  const { state, data } = useJob()
  const placeAt = usePlace()
  const lines = useLines(scaleId)
  // First as the page was loaded, on the server as here: nothing jumps when it comes to life.
  const [seen, setSeen] = useState(() => judge(() => [], placeAt(data.loadedAt)))
  const look = useEffectEvent(() => setSeen(judge(lines, placeAt(serverNow(state)))))
  useEffect(() => {
    const soon = setTimeout(() => look())
    const again = setInterval(() => look(), AGAIN_MS)
    return () => {
      clearTimeout(soon)
      clearInterval(again)
    }
  }, [subject])
  return seen
}
