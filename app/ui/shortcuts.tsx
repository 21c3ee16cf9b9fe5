import { useEffect, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { useNavigate } from 'react-router'

const KEYS: [key: string, what: string, to?: string][] = [
  ['b', 'Bench', '/'],
  ['c', 'Cylinders', '/cylinders'],
  ['s', 'Systems', '/systems'],
  ['r', 'Slide rule', '/slide-rule'],
  ['l', 'Ledger', '/ledger'],
  ['/', 'Find a tool, a cylinder, a system or a job'],
  ['n', 'New job', '/jobs/new'],
  ['e', 'On a job: to the quick-entry line'],
  ['?', 'This list'],
]
const OFF = 'keg-no-shortcuts'

/** Single keys outside of fields. They can be switched off, for speech input and for cats. */
export function Shortcuts({ find }: { find: () => void }) {
  const navigate = useNavigate()
  const [open, setOpen] = useState(false)
  const [on, setOn] = useState(true)

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return
      if (event.key === '?') {
        setOn(localStorage.getItem(OFF) === null)
        return setOpen(true)
      }
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

  const toggle = (next: boolean) => {
    setOn(next)
    if (next) localStorage.removeItem(OFF)
    else localStorage.setItem(OFF, 'off')
  }
  return (
    <Modal show={open} onHide={() => setOpen(false)} centered aria-labelledby="shortcuts-title">
      <Modal.Header closeButton>
        <Modal.Title id="shortcuts-title" as="h2">
          Keys
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className="stack">
        <table className="ledger-table">
          <tbody>
            {KEYS.map(([key, what]) => (
              <tr key={key}>
                <td>
                  <kbd>{key}</kbd>
                </td>
                <td>{what}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <Form.Check
          type="switch"
          id="shortcuts-on"
          label="Single keys work"
          checked={on}
          onChange={(event) => toggle(event.target.checked)}
        />
        <Button onClick={() => setOpen(false)}>Done</Button>
      </Modal.Body>
    </Modal>
  )
}

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  )
}
