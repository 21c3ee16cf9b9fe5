import { useEffect, useState } from 'react'
import type { JobState } from '#core/tape'
import { serverNow } from './device'

/** Now by the server's clock, as far as it is known, told anew every so often; undefined until the page is alive. */
export function useServerNow({ clocks }: Pick<JobState, 'clocks'>, everyMs = 1_000): number | undefined {
  const [now, setNow] = useState<number>()
  useEffect(() => {
    const tick = () => setNow(serverNow({ clocks }))
    tick()
    const timer = setInterval(tick, everyMs)
    // A phone that slept: at once, not at the next tick.
    document.addEventListener('visibilitychange', tick)
    return () => {
      clearInterval(timer)
      document.removeEventListener('visibilitychange', tick)
    }
  }, [clocks, everyMs])
  return now
}
