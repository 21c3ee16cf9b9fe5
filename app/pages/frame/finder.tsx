import { type FormEvent, type KeyboardEvent, useCallback, useEffect, useRef, useState } from 'react'
import { Modal } from 'react-bootstrap'
import { Link, useNavigate } from 'react-router'
import { askOrLook } from '~/device/page/ask-or-look'
import type { Found } from './found'

const PAUSE_MS = 150

/** `/` from anywhere: to a tool, a cylinder, kit, a system or a job by a few letters, or by the address that a label's code has. */
export function Finder({ close }: { close: () => void }) {
  return (
    <Modal show onHide={close} aria-labelledby="finder-title" animation={false}>
      <Modal.Body>
        <Search close={close} />
      </Modal.Body>
    </Modal>
  )
}

interface Answer {
  search: string
  found: Found[]
  /** Since when it is so, where the device has looked. */
  at?: number
}

function Search({ close }: { close: () => void }) {
  const navigate = useNavigate()
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const [text, setText] = useState('')
  const [{ search, found, lost, at }, setAnswer] = useState<Answer & { lost?: boolean }>({
    search: '',
    found: [],
  })
  const find = useCallback(async (q: string) => {
    const answer = await askOrLook<Answer>(`/find?q=${encodeURIComponent(q)}`, () =>
      import('./find-here').then((each) => each.findHere),
    )
    setAnswer(answer ?? { search: q.trim(), found: [], lost: true })
  }, [])
  useEffect(() => {
    timer.current = setTimeout(() => void find(''), 0)
    return () => clearTimeout(timer.current)
  }, [find])
  const groups = [...new Set(found.map(({ group }) => group))]
  const settled = search === text.trim()

  const change = (next: string) => {
    setText(next)
    clearTimeout(timer.current)
    timer.current = setTimeout(() => void find(next), PAUSE_MS)
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (!settled || !found[0]) return
    close()
    void navigate(found[0].to)
  }
  const move = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (by === undefined) return
    event.preventDefault()
    const stops = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('input, a')]
    const at = stops.indexOf(document.activeElement as HTMLElement)
    stops[(at + by + stops.length) % stops.length]?.focus()
  }
  return (
    <div onKeyDown={move} className="finder">
      <form onSubmit={submit} role="search">
        <label id="finder-title" htmlFor="finder-text" className="form-label">
          Find a tool, a cylinder, kit, a system or a job
        </label>
        <input
          id="finder-text"
          className="form-control"
          value={text}
          onChange={(event) => change(event.target.value)}
          autoFocus
          autoComplete="off"
          spellCheck={false}
          maxLength={200}
        />
      </form>
      <div aria-live="polite">
        {lost && <p className="quiet mt-2 mb-0">No connection, and nothing is kept on this device yet.</p>}
        {at !== undefined && (
          <p className="quiet mt-2 mb-0">
            No connection: jobs in hand, and what is in use, as this device knows it.
          </p>
        )}
        {settled && !lost && found.length === 0 && (
          <p className="quiet mt-2 mb-0">
            Nothing has “{text.trim()}” in it: try fewer letters, or a job’s number.
          </p>
        )}
        {groups.map((group) => (
          <section key={group}>
            <h2 className="h6 quiet">{group}</h2>
            <ul>
              {found
                .filter((each) => each.group === group)
                .map(({ to, name, beside }) => (
                  <li key={to}>
                    <Link to={to} onClick={close}>
                      <strong>{name}</strong> <span className="quiet">{beside}</span>
                    </Link>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </div>
    </div>
  )
}
