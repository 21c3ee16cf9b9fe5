import { useEffect, useRef, useState } from 'react'
import type { AskedWeight } from '#core/tape'

/** So long nothing was typed: the number is complete enough to ask about. */
const PAUSE_MS = 600
/** A question that has just come up was not read yet. */
const READ_MS = 350

interface Standing {
  weightMg: number
  asked: AskedWeight
}

/**
 * Asks about a weight while it is typed, once the fingers pause, and before it is noted.
 * @param ask judged when it is asked: what is likely depends on the time
 */
export function useQuestion(
  weightMg: number | undefined,
  ask: (weightMg: number) => AskedWeight | undefined,
) {
  const [standing, setStanding] = useState<Standing>()
  const since = useRef(0)
  const latestAsk = useRef(ask)
  useEffect(() => {
    latestAsk.current = ask
  })
  const raise = (weight: number, asked: AskedWeight) => {
    since.current = performance.now()
    setStanding({ weightMg: weight, asked })
  }
  useEffect(() => {
    if (weightMg === undefined) return
    const timer = setTimeout(() => {
      const asked = latestAsk.current(weightMg)
      if (!asked) return
      since.current = performance.now()
      setStanding((known) => (known?.weightMg === weightMg ? known : { weightMg, asked }))
    }, PAUSE_MS)
    return () => clearTimeout(timer)
  }, [weightMg])

  // Of another number, or of none, it says nothing any more.
  const question = standing && standing.weightMg === weightMg ? standing.asked : undefined
  return {
    question,
    /** Whether it may be noted: nothing to ask, or it was asked and answered by pressing again. */
    mayNote: (weight: number): boolean => {
      if (standing?.weightMg === weight) return performance.now() - since.current > READ_MS
      const asked = ask(weight)
      if (asked) raise(weight, asked)
      return asked === undefined
    },
    forget: () => setStanding(undefined),
  }
}
