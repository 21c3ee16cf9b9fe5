import { ZERO_CELSIUS_K } from './factors'
import { NUMERAL, readEach, refuseSpaced, tidy, trimmed } from './numeral'
import { UnitError } from './unit-error'

export type TemperatureStyle = 'F' | 'C'

const TEMPERATURE = new RegExp(`^(-?) ?(${NUMERAL}) ?(?:°|deg)? ?(c|f|k)?$`)

/**
 * Reads a temperature: `31C`, `88 °F`, `-12`, `304 K`. Without a unit it is taken in `style`.
 * @returns kelvin
 * @throws UnitError when it is no temperature, or outside -100 to +300 C
 */
export function parseTemperature(text: string, style: TemperatureStyle): number {
  refuseSpaced(text)
  const found = TEMPERATURE.exec(tidy(text))
  if (!found) throw new UnitError(`"${text}" is not a temperature Keg can read: write it like 31 C or 88 F.`)
  const unit = (found[3] ?? style).toUpperCase()
  return readEach(
    text,
    found[2]!,
    (size) => {
      const value = found[1] ? -size : size
      const kelvin =
        unit === 'K' ? value : unit === 'C' ? value + ZERO_CELSIUS_K : (value - 32) / 1.8 + ZERO_CELSIUS_K
      if (kelvin < 173.15 || kelvin > 573.15)
        throw new UnitError(`"${text}" is outside −100 to +300 °C: check the number and its unit.`)
      return kelvin
    },
    unit,
  )
}

/** A temperature to read: half degrees are what clamps know. */
export function formatTemperature(tempK: number, style: TemperatureStyle): string {
  const value = style === 'C' ? tempK - ZERO_CELSIUS_K : (tempK - ZERO_CELSIUS_K) * 1.8 + 32
  return `${trimmed(value, 1).replace('-', '−')} °${style}`
}

const DIFFERENCE = new RegExp(`^(-?) ?(${NUMERAL}) ?(?:°|deg)? ?(c|f|k)?$`)

/**
 * Reads a difference of temperatures: `10`, `10 K`, `18 °F`. Without a unit it is taken in `style`.
 * @returns kelvin, -200 to 200
 * @throws UnitError when it is no difference
 */
export function parseTemperatureDifference(text: string, style: TemperatureStyle): number {
  refuseSpaced(text)
  const found = DIFFERENCE.exec(tidy(text))
  if (!found)
    throw new UnitError(
      `"${text}" is not a difference of temperatures Keg can read: write it like 10 K or 18 °F.`,
    )
  const unit = (found[3] ?? style).toUpperCase()
  return readEach(
    text,
    found[2]!,
    (size) => {
      const kelvin = (found[1] ? -size : size) / (unit === 'F' ? 1.8 : 1)
      if (Math.abs(kelvin) > 200) throw new UnitError(`"${text}" is far too much: check the number.`)
      return kelvin
    },
    unit,
  )
}

/** A difference of temperatures (superheat, subcooling) to read. */
export function formatTemperatureDifference(differenceK: number, style: TemperatureStyle): string {
  return `${trimmed(style === 'C' ? differenceK : differenceK * 1.8, 1).replace('-', '−')} ${style === 'C' ? 'K' : '°F'}`
}
