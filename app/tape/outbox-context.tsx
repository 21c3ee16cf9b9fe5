import { createContext, type ReactNode, use, useEffect, useState, useSyncExternalStore } from 'react'
import { reloadState, subscribeToReloads } from '~/live/last-good'
import { clockTime } from '~/ui/time'
import { Outbox, type Signal } from './outbox'

const OutboxContext = createContext<Outbox | undefined>(undefined)

interface OutboxProviderProps {
  person: { userId: string; name: string }
  children: ReactNode
}

const SIGNED_IN = 'keg-signed-in'

/**
 * One outbox for all pages, so that entries go on their way wherever the person has gone to. When somebody else has
 * signed in, here or in another tab, it stops at once and the tab begins anew.
 */
export function OutboxProvider({ person: { userId, name }, children }: OutboxProviderProps) {
  const [outbox] = useState(() => new Outbox(userId, name))
  useEffect(() => {
    tellOtherTabs(userId)
    const leave = () => {
      outbox.stop()
      location.reload()
    }
    const look = (event: StorageEvent) => {
      if (event.key === SIGNED_IN && event.newValue !== null && event.newValue !== userId) leave()
    }
    window.addEventListener('storage', look)
    const stopLooking = outbox.subscribe(() => {
      if (outbox.snapshot().signal === 'another-person') leave()
    })
    const stop = outbox.start()
    return () => {
      window.removeEventListener('storage', look)
      stopLooking()
      stop()
    }
  }, [outbox, userId])
  return <OutboxContext value={outbox}>{children}</OutboxContext>
}

function tellOtherTabs(userId: string) {
  try {
    localStorage.setItem(SIGNED_IN, userId)
  } catch {
    // A browser that keeps nothing: the server still refuses notes in another's name.
  }
}

export function useOutbox() {
  const outbox = use(OutboxContext)
  if (!outbox) throw new Error('useOutbox needs an OutboxProvider above it')
  const snapshot = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.snapshot)
  return { outbox, ...snapshot }
}

const WHY: Record<Exclude<Signal, 'here'>, (count: string) => string> = {
  lost: (count) => `No connection: ${count} and will be sent when it returns.`,
  failing: (count) => `The server cannot take notes just now: ${count} and will be sent by themselves.`,
  busy: (count) => `The server asks for a pause: ${count} and will be sent in a moment.`,
  'signed-out': (count) => `You are signed out: ${count}. Sign in again in this browser and it is sent.`,
  'another-person': (count) => `Somebody else has signed in here: ${count} until you sign in again.`,
}

/** Says when entries wait on this device and why, whose they are, and when the page is not the newest. */
export function SignalLine({ timeZone }: { timeZone: string }) {
  const { signal, waiting, others, kept } = useOutbox()
  const staleSince = useSyncExternalStore(subscribeToReloads, reloadState, () => undefined)
  const lines = [
    signal !== 'here' && waiting.length > 0 && WHY[signal](waits(waiting.length)),
    waiting.length > 0 &&
      !kept &&
      'This browser keeps nothing when it is closed: leave this page open until it is sent.',
    ...others.map(
      ({ name, count }) => `${notes(count)} of ${name} kept here: sent when ${name} signs in here again.`,
    ),
    staleSince !== undefined &&
      `This page could not be brought up to date: it shows what was so at ${clockTime(staleSince, timeZone)}.`,
  ].filter((line) => typeof line === 'string')
  if (lines.length === 0) return null
  return (
    <div className="signal" role="status">
      {lines.map((line) => (
        <div key={line}>{line}</div>
      ))}
    </div>
  )
}

const waits = (count: number) => `${count} ${count === 1 ? 'entry waits' : 'entries wait'} on this device`
const notes = (count: number) => (count === 1 ? '1 unsent note' : `${count} unsent notes`)
