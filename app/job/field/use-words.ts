import { useMemo } from 'react'
import { type Names, useEntryWords } from '~/words/tape/entry-words'
import { useJob } from './job-context'

/** The names that this job knows. */
export function useNames(): Names {
  const { cylinderOf, data } = useJob()
  return useMemo(
    () => ({
      cylinder: (id: string) => cylinderOf(id)?.label,
      system: (id: string) => (data.system?.systemId === id ? data.system.name : undefined),
    }),
    [cylinderOf, data.system],
  )
}

/** Entries in words, with the names that this job knows. */
export const useWords = () => useEntryWords(useNames())
