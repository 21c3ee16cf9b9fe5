import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { KEYS, OFF } from './keys'

/** The keys there are; they can be switched off, for speech input and for cats. */
export function ShortcutList({ close }: { close: () => void }) {
  const [on, setOn] = useState(() => localStorage.getItem(OFF) === null)
  const toggle = (next: boolean) => {
    setOn(next)
    if (next) localStorage.removeItem(OFF)
    else localStorage.setItem(OFF, 'off')
  }
  return (
    <Modal show onHide={close} centered aria-labelledby="shortcuts-title">
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
        <Button onClick={close}>Done</Button>
      </Modal.Body>
    </Modal>
  )
}
