import SignaturePad from 'signature_pad'
import { useEffect, useRef, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { draft } from '~/tape/draft'
import { dayAndTime } from '~/base/ui/time'
import { useJob } from '../field/job-context'
import { useWordsTyped } from '../field/use-figure'
import { Drawn, WIDE } from '../paper/drawn'

/** A stroke keeps every point where it has few, and every second or third of many. */
const MOST_POINTS = 400

/** The customer signs on the screen: what was drawn stays on the tape, and comes on every paper. */
export function Signature() {
  const { state, data, note } = useJob()
  const signed = state.signature
  const [again, setAgain] = useState(false)
  if (signed && !again)
    return (
      <section aria-label="Signature">
        <h3 className="mb-1">Signed</h3>
        <Drawn strokes={signed.strokes} />
        <p className="mb-0">
          {signed.name || 'The customer'}, {dayAndTime(signed.at, data.shop.timeZone)}{' '}
          {data.mayWrite && (
            <Button variant="link" className="p-0" onClick={() => setAgain(true)}>
              Sign again
            </Button>
          )}
        </p>
      </section>
    )
  if (!data.mayWrite) return null
  return (
    <Field
      sign={(name, strokes) => {
        note([draft('customer-signed', { name, strokes })])
        setAgain(false)
      }}
    />
  )
}

function Field({ sign }: { sign: (name: string, strokes: number[][]) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const pad = useRef<SignaturePad>(undefined)
  const [name, setName] = useWordsTyped('signed by')
  const [empty, setEmpty] = useState(true)
  const [missing, setMissing] = useState(false)
  useEffect(() => {
    const element = canvas.current!
    const made = new SignaturePad(element, { penColor: getComputedStyle(element).color })
    made.addEventListener('endStroke', () => setEmpty(made.isEmpty()))
    pad.current = made
    // As sharp as the screen is; a turned phone starts anew, since what was drawn would no longer fit.
    const fit = () => {
      const ratio = Math.max(1, window.devicePixelRatio)
      element.width = element.offsetWidth * ratio
      element.height = element.offsetHeight * ratio
      element.getContext('2d')?.scale(ratio, ratio)
      made.clear()
      setEmpty(true)
    }
    fit()
    let wide = element.offsetWidth
    const resize = new ResizeObserver(() => {
      if (element.offsetWidth !== wide) {
        wide = element.offsetWidth
        fit()
      }
    })
    resize.observe(element)
    return () => {
      resize.disconnect()
      made.off()
    }
  }, [])
  const done = () => {
    const strokes = strokesOf(pad.current!, canvas.current!.offsetWidth)
    if (strokes.length === 0) return setMissing(true)
    sign(name.trim(), strokes)
    setName('')
  }
  return (
    <section className="stack" aria-label="Signature" style={{ gap: '0.5rem' }}>
      <h3 className="mb-0">Signature of the customer</h3>
      <canvas ref={canvas} className="signature-field" aria-label="Sign here with a finger or a pen" />
      <div className="row-of" style={{ alignItems: 'end' }}>
        <Form.Group className="field">
          <Form.Label htmlFor="signed-by">Name</Form.Label>
          <Form.Control
            id="signed-by"
            value={name}
            maxLength={120}
            onChange={(event) => setName(event.target.value)}
          />
        </Form.Group>
        <Button className="btn-big" onClick={done}>
          Signed
        </Button>
        <Button
          variant="outline-secondary"
          className="btn-big"
          disabled={empty}
          onClick={() => {
            pad.current?.clear()
            setEmpty(true)
          }}
        >
          Clear
        </Button>
      </div>
      {missing && empty && (
        <p className="mb-0 field-error" role="alert">
          Nothing is drawn yet: sign in the field above. Without a finger or a pen the paper report has a line
          for it.
        </p>
      )}
    </section>
  )
}

function strokesOf(pad: SignaturePad, widthPx: number): number[][] {
  return pad
    .toData()
    .slice(0, 200)
    .map(({ points }) => {
      const every = Math.max(1, Math.ceil(points.length / MOST_POINTS))
      return points
        .filter((_, i) => i % every === 0 || i === points.length - 1)
        .flatMap(({ x, y }) => [Math.round((x / widthPx) * WIDE), Math.round((y / widthPx) * WIDE)])
    })
    .filter((stroke) => stroke.length >= 2)
}
