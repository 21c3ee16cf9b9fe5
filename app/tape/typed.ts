import { useCallback, useSyncExternalStore } from 'react'

const PREFIX = 'keg-typed'
/** What was typed longer ago than this is no part of today's work, ms. */
const STALE_MS = 3 * 86_400_000

const typed = new Map<string, string>()
const listeners = new Set<() => void>()

/**
 * What was typed into a field and not noted yet. It survives a switch of jobs, a reload and a page that was put away,
 * as far as this browser keeps anything; else as long as the page is open.
 * @param place whose, and of which job: what one person typed is not shown to the next
 */
export function useTyped(place: string, field: string): [text: string, setText: (text: string) => void] {
  const key = `${PREFIX} ${place} ${field}`
  const text = useSyncExternalStore(
    subscribe,
    () => read(key),
    () => '',
  )
  const setText = useCallback((next: string) => write(key, next), [key])
  return [text, setText]
}

function subscribe(listener: () => void) {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

function read(key: string): string {
  const known = typed.get(key)
  if (known !== undefined) return known
  const kept = keptIn(key)
  typed.set(key, kept)
  return kept
}

function write(key: string, text: string) {
  typed.set(key, text)
  try {
    if (text === '') localStorage.removeItem(key)
    else localStorage.setItem(key, JSON.stringify({ text, at: Date.now() }))
  } catch {
    // A browser that keeps nothing, or is full: what was typed stays as long as the page is open.
  }
  for (const listener of listeners) listener()
}

function keptIn(key: string): string {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as { text?: unknown; at?: unknown } | null
    if (typeof kept?.text === 'string' && typeof kept.at === 'number' && Date.now() - kept.at < STALE_MS)
      return kept.text
    localStorage.removeItem(key)
  } catch {
    // Nothing is kept, or it is damaged: an empty field.
  }
  return ''
}
