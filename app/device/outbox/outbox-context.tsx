import { createContext, type ReactNode, use, useEffect, useState, useSyncExternalStore } from 'react'
import { confirmed } from '../page/page'
import { isHere, onSomebodyElse } from '../who/who'
import { setCurrentOutbox } from '../page/current'
import { Outbox } from './outbox'
import { onRoomEmptied } from '../room/waiting-room'

const OutboxContext = createContext<Outbox | undefined>(undefined)

interface OutboxProviderProps {
  person: { userId: string; name: string }
  theme: string
  children: ReactNode
}

/**
 * One outbox for all pages, so that entries go on their way wherever the person has gone to. When somebody else has
 * signed in, here or in another tab, it stops at once and the tab begins anew.
 */
export function OutboxProvider({ person: { userId, name }, theme, children }: OutboxProviderProps) {
  const [outbox] = useState(() => new Outbox(userId, name))
  useEffect(() => {
    const leave = () => {
      outbox.stop()
      location.reload()
    }
    const stopWatching = onSomebodyElse(userId, leave)
    setCurrentOutbox(outbox)
    const stopLearning = outbox.onSent(({ jobId, entries }) => confirmed(jobId, entries))
    const stopLooking = outbox.subscribe(() => {
      if (outbox.snapshot().signal === 'another-person') leave()
    })
    const stop = outbox.start()
    return () => {
      stopWatching()
      stopLearning()
      stopLooking()
      stop()
    }
  }, [outbox, userId])
  useEffect(() => {
    isHere(userId, theme)
    return onRoomEmptied(() => isHere(userId, theme))
  }, [userId, theme])
  return <OutboxContext value={outbox}>{children}</OutboxContext>
}

export function useOutbox() {
  const outbox = use(OutboxContext)
  if (!outbox) throw new Error('useOutbox needs an OutboxProvider above it')
  const snapshot = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.snapshot)
  return { outbox, ...snapshot }
}
