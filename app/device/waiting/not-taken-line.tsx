import { lazy, Suspense, useEffect, useState } from 'react'
import { readyHere } from '../page/page'
import { useOutbox } from '../outbox/outbox-context'

const load = () => import('./not-taken')
const NotTakenDialog = lazy(() => load().then((each) => ({ default: each.NotTakenDialog })))

/** On every page: what the server did not take is kept, can be read, sent again, or thrown away. */
export function NotTakenLine({ timeZone }: { timeZone: string }) {
  const { aside, photosAside } = useOutbox()
  const [open, setOpen] = useState(false)
  const count = aside.length + photosAside.length
  const some = count > 0
  useEffect(() => {
    if (some) readyHere(load)
  }, [some])
  if (!some) return null
  return (
    <>
      <button type="button" className="signal signal-press" onClick={() => setOpen(true)}>
        {count === 1 ? '1 note was not taken' : `${count} notes were not taken`}: look at{' '}
        {count === 1 ? 'it' : 'them'}
      </button>
      {open && (
        <Suspense fallback={null}>
          <NotTakenDialog timeZone={timeZone} close={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  )
}
