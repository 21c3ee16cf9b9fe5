import { useEffect, useState } from 'react'
import type { JobState } from '#core/tape'
import { serverNow } from '~/tape/device'

/** The server's time anew every second, once the page is alive; undefined before. */
export function useTicking(clocks: JobState['clocks']): number | undefined {
  const [now, setNow] = useState<number>()
  useEffect(() => {
    const tick = () => setNow(serverNow({ clocks }))
    tick()
    const timer = setInterval(tick, 1000)
    return () => clearInterval(timer)
  }, [clocks])
  return now
}
