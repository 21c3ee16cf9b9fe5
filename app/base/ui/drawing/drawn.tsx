import { useEffect, useRef, useState } from 'react'

/** What can be drawn into an element, again and again. */
export interface Pen<Input> {
  show: (input: Input) => void
  remove: () => void
}

interface DrawnProps<Input> {
  /** Says in words what is drawn, for those who do not see it. */
  label: string
  className: string
  input: Input
  /** Its code comes only where something is drawn. Made once: it must not change. */
  load: () => Promise<(element: HTMLElement) => Pen<Input>>
}

/** A drawing whose code is loaded on its own; where that fails, the words beside it are enough. */
export function Drawn<Input>({ label, className, input, load }: DrawnProps<Input>) {
  const box = useRef<HTMLDivElement>(null)
  const pen = useRef<Pen<Input>>(undefined)
  const latest = useRef(input)
  const [failed, setFailed] = useState(false)
  useEffect(() => {
    let gone = false
    load()
      .then((draw) => {
        if (gone || !box.current) return
        pen.current = draw(box.current)
        pen.current.show(latest.current)
      })
      .catch((error: unknown) => {
        reportError(error)
        setFailed(true)
      })
    return () => {
      gone = true
      pen.current?.remove()
      pen.current = undefined
    }
  }, [load])
  useEffect(() => {
    latest.current = input
    pen.current?.show(input)
  }, [input])
  if (failed) return null
  return <div ref={box} className={className} role="img" aria-label={label} />
}
