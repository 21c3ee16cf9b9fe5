import { useState } from 'react'
import { Button, Modal } from 'react-bootstrap'
import { signOut } from '~/offline/who'
import { useOutbox } from './outbox-context'

/** Asks once where something of this person's was not sent yet. */
export function SignOut({ className, button }: { className: string; button?: string }) {
  const { waiting, makings, kept } = useOutbox()
  const [asking, setAsking] = useState(false)
  const count = waiting.length + makings.length
  const it = count === 1 ? 'it' : 'them'
  return (
    <>
      <form
        method="post"
        action="/sign-out"
        className={className}
        onSubmit={(event) => {
          event.preventDefault()
          if (count > 0) setAsking(true)
          else void signOut()
        }}
      >
        <button type="submit" className={button}>
          Sign out
        </button>
      </form>
      <Modal show={asking} onHide={() => setAsking(false)} centered aria-labelledby="sign-out-title">
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="sign-out-title">
            {count === 1 ? '1 note is not sent yet' : `${count} notes are not sent yet`}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {kept
            ? `Stay until they are sent, if you can. If you sign out now, ${it === 'it' ? 'it waits' : 'they wait'} on this device, and nobody else sends ${it}: sign in here again with signal.`
            : `This browser keeps nothing: if you sign out now, ${it === 'it' ? 'it is' : 'they are'} lost.`}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-danger" onClick={() => void signOut()}>
            {kept ? 'Sign out all the same' : `Sign out, and lose ${it}`}
          </Button>
          <Button onClick={() => setAsking(false)} autoFocus>
            Stay
          </Button>
        </Modal.Footer>
      </Modal>
    </>
  )
}
