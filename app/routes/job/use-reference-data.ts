import { useEffect, useRef } from 'react'
import type { JobState } from '#core/tape'
import type { JobData } from './load.server'

/** Fetches system and cylinders again when the tape names others than the page was loaded with. */
export function useReferenceData(
  state: JobState,
  data: JobData,
  { revalidate }: { revalidate: () => Promise<void> },
) {
  const { refrigerant, systemId, status } = state
  const ended = state.runs.filter((run) => run.endedAt !== undefined).length
  const key = `${refrigerant} ${systemId} ${status} ${ended}`
  const loadedKey = useRef(key)
  useEffect(() => {
    if (loadedKey.current === key) return
    loadedKey.current = key
    // Entries are on their way to the server: a moment later it knows them too.
    const timer = setTimeout(() => void revalidate(), 400)
    return () => clearTimeout(timer)
  }, [key, revalidate, data.jobId])
}
