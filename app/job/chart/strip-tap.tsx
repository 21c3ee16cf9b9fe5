import { useState } from 'react'
import { Button, Modal } from 'react-bootstrap'
import { LiveBoard } from '../live/board'
import { StripChart } from './strip-chart'

/** On a phone: the record, one tap away and one tap back. */
export function StripTap() {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button variant="outline-secondary" className="strip-tap" onClick={() => setOpen(true)}>
        Strip
      </Button>
      <Modal show={open} onHide={() => setOpen(false)} fullscreen aria-labelledby="strip-title">
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="strip-title">
            Strip
          </Modal.Title>
        </Modal.Header>
        <Modal.Body className="stack strip-sheet">
          <LiveBoard />
          <StripChart />
        </Modal.Body>
      </Modal>
    </>
  )
}
