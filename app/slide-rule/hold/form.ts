import { parseLinear, parseTemperature, UnitError, ZERO_CELSIUS_K } from '#core/units'
import type { Typed } from '~/base/form/check'
import type { ReadersUnits } from '~/base/ui/measure'
import { judgedHold, reasonsOf } from './outcome'
import { HoldTextError, readHoldText } from './read'

const NAMES = ['readings', 'previous', 'ambient', 'volume'] as const
type Name = (typeof NAMES)[number]
const LONGEST = 500_000

/** Judges what was pasted, here or on the server. What cannot be read keeps what was typed, with a sentence on its field. */
export function judgeForm(form: Typed, reading: ReadersUnits) {
  const typed = Object.fromEntries(
    NAMES.map((name) => [name, (form[name] ?? '').slice(0, LONGEST)]),
  ) as Record<Name, string>
  const errors: Partial<Record<Name, string>> = {}
  const read = <T>(name: Name, how: (text: string) => T): T | undefined => {
    const text = typed[name].trim()
    if (text === '') return undefined
    try {
      return how(text)
    } catch (error) {
      if (!(error instanceof HoldTextError || error instanceof UnitError)) throw error
      errors[name] = error.message
      return undefined
    }
  }
  const holdIn = (text: string) => readHoldText(text, reading.units.vacuum)
  const readings = read('readings', holdIn)
  const previous = read('previous', holdIn)
  const ambientK = read('ambient', (text) => within(parseTemperature(text, reading.units.temperature)))
  const volume = read('volume', (text) => parseLinear('capacity', text, 'L'))
  if (!readings && !errors.readings)
    errors.readings = 'Paste the readings: a time and a pressure on each line.'
  if (!readings || Object.keys(errors).length > 0) return { typed, errors }
  const judged = judgedHold(
    {
      readings,
      ...(previous && { previous }),
      ...(ambientK !== undefined && { ambientK }),
      ...(volume !== undefined && { volumeM3: { least: volume, most: volume } }),
    },
    reading,
  )
  return { typed, errors, judged: { ...judged, reasons: reasonsOf(judged.judgement) } }
}

function within(tempK: number): number {
  if (tempK < ZERO_CELSIUS_K - 30 || tempK > ZERO_CELSIUS_K + 60)
    throw new UnitError('Between −30 and 60 °C: check the number and its unit.')
  return tempK
}
