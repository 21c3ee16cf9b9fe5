import { ML_PER_US_FL_OZ } from './factors'
import { NUMERAL, numeralReadings, readEach, refuseSpaced, tidy, trimmed } from './numeral'
import { AmbiguousError, UnitError } from './unit-error'

export type VolumeStyle = 'mL' | 'fl oz'

const VOLUME = new RegExp(`^(${NUMERAL}) ?(ml|cc|cm3|l|fl ?oz|oz)?$`)

/** So many ounces of oil are in no such machine, so many millilitres in many: a bare number may be either. */
const LIKELY_ML = 10

/**
 * Reads a volume of oil or dye: `35`, `35 mL`, `1.2 fl oz`, `0.5 L`. Without a unit it is taken in `style`.
 * @returns millilitres
 * @throws UnitError when it is no volume, AmbiguousError where ounces and millilitres are both likely
 */
export function parseVolume(text: string, style: VolumeStyle = 'mL'): number {
  refuseSpaced(text)
  const found = VOLUME.exec(tidy(text))
  if (!found)
    throw new UnitError(`"${text}" is not an amount of oil Keg can read: write it like 35 mL or 1.2 fl oz.`)
  if (!found[2] && style === 'fl oz' && numeralReadings(found[1]!).some(({ value }) => value >= LIKELY_ML))
    throw new AmbiguousError(
      text,
      (['mL', 'fl oz'] as const).map((unit) => {
        const notation = `${found[1]} ${unit}`
        return { value: parseVolume(notation), notation }
      }),
    )
  const unit = found[2] ?? style.toLowerCase()
  const factor = unit === 'l' ? 1000 : unit.includes('oz') ? ML_PER_US_FL_OZ : 1
  return readEach(
    text,
    found[1]!,
    (value) => {
      if (value * factor > 100_000)
        throw new UnitError(`"${text}" is more than 100 L: check the number and its unit.`)
      return value * factor
    },
    unit,
  )
}

/** A volume to read. */
export function formatVolume(volumeMl: number, style: VolumeStyle): string {
  return style === 'mL' ? `${trimmed(volumeMl, 1)} mL` : `${trimmed(volumeMl / ML_PER_US_FL_OZ, 2)} fl oz`
}
