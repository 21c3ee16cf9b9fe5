import { type RefObject, useLayoutEffect, useRef } from 'react'
import type { Units } from '#core/units'
import type { MeasureKind } from '~/base/ui/measure'

interface PadProps {
  kind: MeasureKind
  units: Units
  /** A minus can be meant: a zeroed scale, a cold line. */
  minus: boolean
  text: string
  setText: (text: string) => void
  input: RefObject<HTMLInputElement | null>
  /** What the one large key does. */
  action: { label: string; name: string }
}

const UNIT_KEYS: Record<'weight' | 'pressure' | 'temperature', (units: Units) => [string, string]> = {
  weight: ({ weight }) => (weight === 'kg' ? ['kg', 'g'] : ['lb', 'oz']),
  pressure: ({ pressure }) => (pressure === 'bar' ? ['bar', 'kPa'] : ['psi', 'inHg']),
  temperature: () => ['°C', '°F'],
}

/** Large keys for a figure: no phone's keyboard comes up, and the focus stays where the number goes. */
export function Pad({ kind, units, minus, text, setText, input, action }: PadProps) {
  const caret = useRef<number | undefined>(undefined)
  useLayoutEffect(() => {
    if (caret.current === undefined) return
    input.current?.setSelectionRange(caret.current, caret.current)
    caret.current = undefined
  }, [text, input])

  const edit = (make: (before: string, after: string) => [before: string, after: string]) => {
    const field = input.current
    const from = field?.selectionStart ?? text.length
    const to = field?.selectionEnd ?? text.length
    const [before, after] = make(text.slice(0, from), text.slice(to))
    caret.current = before.length
    setText((before + after).slice(0, 40))
    field?.focus()
  }
  const write = (key: string) => edit((before, after) => [before + key, after])
  const back = () =>
    edit((before, after) =>
      // A unit goes as it came: with one press.
      [before.replace(/(?:\s*[a-z°]+\s*|[^a-z°\s]\s*)$/i, ''), after],
    )
  const units2 = UNIT_KEYS[kind as keyof typeof UNIT_KEYS](units)
  return (
    <div className="pad" role="group" aria-label="Keys">
      {[7, 8, 9, 4, 5, 6, 1, 2, 3].map((digit) => (
        <Key key={digit} area={`d${digit}`} press={() => write(String(digit))}>
          {digit}
        </Key>
      ))}
      <Key area={minus ? 'd0' : 'd0w'} press={() => write('0')}>
        0
      </Key>
      {minus && (
        <Key area="minus" press={() => edit((before, after) => toggledMinus(before, after))} name="minus">
          −
        </Key>
      )}
      <Key area="point" press={() => write('.')} name="point">
        .
      </Key>
      <Key area="back" press={back} name="back">
        ⌫
      </Key>
      {units2.map((unit, i) => (
        <Key
          key={unit}
          area={`u${i + 1}`}
          press={() => edit((before, after) => [`${before.trimEnd()} ${unit} `, after.trimStart()])}
        >
          {unit}
        </Key>
      ))}
      <button type="submit" className="btn btn-primary pad-note" aria-label={action.name}>
        {action.label}
      </button>
    </div>
  )
}

const toggledMinus = (before: string, after: string): [string, string] =>
  before.startsWith('-') ? [before.slice(1), after] : [`-${before}`, after]

function Key({
  area,
  press,
  name,
  children,
}: {
  area: string
  press: () => void
  name?: string
  children: React.ReactNode
}) {
  return (
    <button
      type="button"
      className={`pad-key pad-${area}`}
      tabIndex={-1}
      aria-label={name}
      // The field keeps the focus.
      onPointerDown={(event) => event.preventDefault()}
      onClick={press}
    >
      {children}
    </button>
  )
}
