import { useEffect, useMemo, useSyncExternalStore } from 'react'
import { Link } from 'react-router'

interface Asked {
  query: string
  /** The answer, as it stood there. */
  answer: string
}

const KEPT = 8
/** An answer that stood this long was meant. */
const MEANT_MS = 2_500
const key = (of: string) => `keg-recent ${of}`

/** Keeps the inputs on this device once their answer has stood for a moment. */
export function useRemember(of: string, query: string, answer: string | undefined) {
  useEffect(() => {
    if (answer === undefined || query === '') return
    const timer = setTimeout(() => {
      const others = read(localStorage.getItem(key(of))).filter((each) => each.query !== query)
      try {
        localStorage.setItem(key(of), JSON.stringify([{ query, answer }, ...others].slice(0, KEPT)))
        window.dispatchEvent(new Event('keg-recent'))
      } catch {
        // The device is full: recent inputs are a convenience, and their links still work.
      }
    }, MEANT_MS)
    return () => clearTimeout(timer)
  }, [of, query, answer])
}

/** What was asked of this tool lately, on this device. */
export function Recent({ of, tool, now }: { of: string; tool: string; now: string }) {
  const stored = useSyncExternalStore(
    subscribe,
    () => localStorage.getItem(key(of)),
    () => null,
  )
  const asked = useMemo(() => read(stored).filter(({ query }) => query !== now), [stored, now])
  if (asked.length === 0) return null
  return (
    <section className="sheet no-print">
      <h2>Asked lately on this device</h2>
      <ul className="due-list">
        {asked.map(({ query, answer }) => (
          <li key={query}>
            <Link to={`/slide-rule/${tool}?${query}`}>
              <span>{[...new URLSearchParams(query).values()].join(' · ')}</span>
              <strong className="digits">{answer}</strong>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}

function subscribe(tell: () => void): () => void {
  window.addEventListener('keg-recent', tell)
  window.addEventListener('storage', tell)
  return () => {
    window.removeEventListener('keg-recent', tell)
    window.removeEventListener('storage', tell)
  }
}

function read(stored: string | null): Asked[] {
  return stored === null ? [] : (JSON.parse(stored) as Asked[])
}
