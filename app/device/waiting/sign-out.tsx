import { lazy, Suspense, useEffect, useState } from 'react'
import { readyHere } from '../page/page'
import { signOut } from '../who/who'
import { useOutbox } from '../outbox/outbox-context'

const load = () => import('./sign-out-question')
const Question = lazy(() => load().then((each) => ({ default: each.SignOutQuestion })))

/** Asks once where something of this person's was not sent yet. */
export function SignOut({ className, button }: { className: string; button?: string }) {
  const { unsent: count, kept } = useOutbox()
  const [asking, setAsking] = useState(false)
  // On a slow line the server takes its time to hear it.
  const [leaving, setLeaving] = useState(false)
  const leave = () => {
    setAsking(false)
    setLeaving(true)
    void signOut()
  }
  const some = count > 0
  useEffect(() => {
    if (some) readyHere(load)
  }, [some])
  return (
    <>
      <form
        method="post"
        action="/sign-out"
        className={className}
        onSubmit={(event) => {
          event.preventDefault()
          if (count > 0) setAsking(true)
          else leave()
        }}
      >
        <button type="submit" className={button} disabled={leaving}>
          {leaving ? 'Signing out …' : 'Sign out'}
        </button>
      </form>
      {asking && (
        <Suspense fallback={null}>
          <Question count={count} kept={kept} leave={leave} stay={() => setAsking(false)} />
        </Suspense>
      )}
    </>
  )
}
