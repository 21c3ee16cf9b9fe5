import { Button, Modal } from 'react-bootstrap'

interface QuestionProps {
  /** What is not sent yet. */
  count: number
  /** This browser keeps it. */
  kept: boolean
  leave: () => void
  stay: () => void
}

/** Before a sign-out that leaves notes behind. */
export function SignOutQuestion({ count, kept, leave, stay }: QuestionProps) {
  const it = count === 1 ? 'it' : 'them'
  return (
    <Modal show onHide={stay} centered aria-labelledby="sign-out-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="sign-out-title">
          {count === 1 ? '1 note is not sent yet' : `${count} notes are not sent yet`}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {kept
          ? `Stay until ${it === 'it' ? 'it is' : 'they are'} sent, if you can. If you sign out now, ${it === 'it' ? 'it waits' : 'they wait'} on this device, and nobody else sends ${it}: sign in here again with signal.`
          : `This browser keeps nothing: if you sign out now, ${it === 'it' ? 'it is' : 'they are'} lost.`}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-danger" onClick={leave}>
          {kept ? 'Sign out all the same' : `Sign out, and lose ${it}`}
        </Button>
        <Button onClick={stay} autoFocus>
          Stay
        </Button>
      </Modal.Footer>
    </Modal>
  )
}
