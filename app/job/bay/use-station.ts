import { useState } from 'react'
import { useRevalidator } from 'react-router'
import { useJob } from '../field/job-context'

const LONGEST_MS = 15_000
/** It may have arrived, and only the answer not. */
const NO_ANSWER =
  'No answer: whether the station was told is not known. Press again: it is told once. Or go on by hand.'

/** Tells the station of this job something. It goes over the server: where no answer comes, that is said. */
export function useStation() {
  const { data } = useJob()
  const { revalidate } = useRevalidator()
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState<string>()
  const tell = async (act: string, fields: Record<string, string>): Promise<boolean> => {
    setBusy(true)
    setError(undefined)
    const body = new URLSearchParams({ act, ...fields })
    const said = await ask(`/jobs/${data.jobId}/programme`, body)
    setBusy(false)
    setError(said)
    if (said === undefined) void revalidate()
    return said === undefined
  }
  return { tell, busy, error }
}

/** @returns what is wrong, as a sentence */
async function ask(to: string, body: URLSearchParams): Promise<string | undefined> {
  try {
    const response = await fetch(to, { method: 'POST', body, signal: AbortSignal.timeout(LONGEST_MS) })
    if (response.ok) return undefined
    const { error } = (await response.json()) as { error?: string }
    return error ?? NO_ANSWER
  } catch {
    return NO_ANSWER
  }
}
