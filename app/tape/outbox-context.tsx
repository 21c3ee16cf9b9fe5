import { createContext, type ReactNode, use, useEffect, useState, useSyncExternalStore } from 'react'
import { Outbox } from './outbox'

const OutboxContext = createContext<Outbox | undefined>(undefined)

/** One outbox for all pages, so that entries go on their way wherever the person has gone to. */
export function OutboxProvider({ userId, children }: { userId: string; children: ReactNode }) {
  const [outbox] = useState(() => new Outbox(userId))
  useEffect(() => outbox.start(), [outbox])
  return <OutboxContext value={outbox}>{children}</OutboxContext>
}

export function useOutbox() {
  const outbox = use(OutboxContext)
  if (!outbox) throw new Error('useOutbox needs an OutboxProvider above it')
  const snapshot = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.snapshot)
  return { outbox, ...snapshot }
}

/** Says when entries wait on this device, and why. */
export function SignalLine() {
  const { signal, waiting, kept } = useOutbox()
  if (signal === 'here' || waiting.length === 0) return null
  const count = `${waiting.length} ${waiting.length === 1 ? 'entry waits' : 'entries wait'} on this device`
  return (
    <div className="signal" role="status">
      {signal === 'lost'
        ? `No connection: ${count} and will be sent when it returns.`
        : `You are signed out: ${count}. Sign in again in this browser and it is sent.`}
      {!kept && ' This browser keeps nothing when it is closed: leave this page open until it is sent.'}
    </div>
  )
}
