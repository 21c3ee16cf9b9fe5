import { lazy, Suspense, useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { KEYS, OFF } from './keys'

const ShortcutList = lazy(() => import('./shortcut-list').then((each) => ({ default: each.ShortcutList })))

/** Single keys outside of fields. They can be switched off, for speech input and for cats. */
export function Shortcuts({ find }: { find: () => void }) {
  const navigate = useNavigate()
  const [open, setOpen] = useState(false)

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return
      if (event.key === '?') return setOpen(true)
      if (localStorage.getItem(OFF) !== null || document.querySelector('.modal.show')) return
      if (event.key === '/') {
        event.preventDefault()
        find()
      }
      if (event.key === 'e') {
        const line = document.getElementById('quick-entry')
        if (line) event.preventDefault()
        line?.focus()
      }
      const to = KEYS.find(([key]) => key === event.key)?.[2]
      if (to) void navigate(to)
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [navigate, find])

  return (
    open && (
      <Suspense fallback={null}>
        <ShortcutList close={() => setOpen(false)} />
      </Suspense>
    )
  )
}

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  )
}
