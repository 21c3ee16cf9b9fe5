import { useEffect, useRef } from 'react'
import { useRevalidator } from 'react-router'
import type { JobState } from '#core/tape'

/**
 * Fetches system and cylinders again when the tape names others than the page was loaded with. It watches what the
 * server has confirmed: before that it would answer with what it knew.
 */
export function useReferenceData({ refrigerant, systemId, status, transfers }: JobState) {
  const { revalidate } = useRevalidator()
  const ended = transfers.filter((run) => run.endedAt !== undefined).length
  const key = `${refrigerant} ${systemId} ${status} ${ended}`
  const loadedKey = useRef(key)
  useEffect(() => {
    if (loadedKey.current === key) return
    loadedKey.current = key
    void revalidate()
  }, [key, revalidate])
}
