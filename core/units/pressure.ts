import {
  PA_PER_BAR,
  PA_PER_INHG,
  PA_PER_KPA,
  PA_PER_MICRON,
  PA_PER_PSI,
  STANDARD_ATMOSPHERE_PA,
} from './factors'
import { NUMERAL, readEach, refuseSpaced, tidy, trimmed } from './numeral'
import { AmbiguousError, UnitError } from './unit-error'

export type PressureStyle = 'psi' | 'bar'
export type VacuumStyle = 'micron' | 'Pa'

/**
 * Local atmosphere at a height, absolute Pa (international standard atmosphere).
 * @param altitudeM -450 to 5500 m
 */
export function atmospherePa(altitudeM: number): number {
  return STANDARD_ATMOSPHERE_PA * (1 - 2.25577e-5 * altitudeM) ** 5.25588
}

const GAUGE = new RegExp(
  `^(-?)(${NUMERAL}) ?(psi ?a|psi ?g|psi|bar ?a(?:bs)?|bar ?g|bar|kpa ?a(?:bs)?|kpa|mbar ?a(?:bs)?|in ?hg(?: ?vac(?:uum)?)?|microns?|pa ?a(?:bs)?|pa)?$`,
)

/**
 * Reads a gauge in field notation: `118`, `118 psi`, `8.1 bar`, `10 inHg` (below atmosphere), `-0.3 bar`, `22 psia`.
 * Without a unit the number is gauge pressure in `style`.
 * @param localAtmospherePa absolute; see {@link atmospherePa}
 * `-10` where the unit beside the field is psi is psi below zero or inches of mercury: both are offered.
 * @returns absolute Pa
 * @throws UnitError when it is no pressure, or below a perfect vacuum
 * @throws AmbiguousError when it can be read in several ways
 */
export function parsePressure(
  text: string,
  style: PressureStyle,
  localAtmospherePa = STANDARD_ATMOSPHERE_PA,
): number {
  refuseSpaced(text)
  const found = GAUGE.exec(tidy(text))
  if (!found)
    throw new UnitError(
      `"${text}" is not a pressure Keg can read: write it like 118 psi, 8.1 bar or 10 inHg.`,
    )
  const [, minus, numeral, unit] = found
  const read = (as: string) =>
    readEach(
      text,
      numeral!,
      (value) => checked(text, absolutePa(minus ? -value : value, as.replace(/ /g, ''), localAtmospherePa)),
      as,
    )
  if (minus && !unit && style === 'psi') return psiOrMercury(text, numeral!, read)
  return read(unit ?? style)
}

/** A compound gauge's pointer below zero stands on the inches of mercury, and some write the minus. */
function psiOrMercury(text: string, numeral: string, read: (unit: string) => number): number {
  const readings = ['psi', 'inhg'].flatMap((unit) => {
    try {
      const value = read(unit)
      return [{ value, notation: unit === 'psi' ? `-${numeral} psi` : `${numeral} inHg` }]
    } catch (error) {
      if (error instanceof AmbiguousError || !(error instanceof UnitError)) throw error
      return []
    }
  })
  if (readings.length > 1) throw new AmbiguousError(text, readings)
  return readings[0]?.value ?? read('psi')
}

function checked(text: string, pa: number): number {
  if (pa < 0) throw new UnitError(`"${text}" is below a perfect vacuum: check the number and its unit.`)
  if (pa > 2e7) throw new UnitError(`"${text}" is above 200 bar: check the number and its unit.`)
  return pa
}

function absolutePa(value: number, unit: string, atmosphere: number): number {
  if (unit.startsWith('inhg')) return atmosphere - Math.abs(value) * PA_PER_INHG
  if (unit === 'psia') return value * PA_PER_PSI
  if (unit.startsWith('psi')) return atmosphere + value * PA_PER_PSI
  if (unit.startsWith('bara')) return value * PA_PER_BAR
  if (unit.startsWith('bar')) return atmosphere + value * PA_PER_BAR
  if (unit.startsWith('kpaa')) return value * PA_PER_KPA
  if (unit === 'kpa') return atmosphere + value * PA_PER_KPA
  if (unit.startsWith('mbar')) return value * 100
  if (unit.startsWith('micron')) return value * PA_PER_MICRON
  return value
}

/** A gauge pressure to read: psi and inHg below atmosphere, or bar. */
export function formatPressure(
  pressurePa: number,
  style: PressureStyle,
  localAtmospherePa = STANDARD_ATMOSPHERE_PA,
): string {
  const gauge = pressurePa - localAtmospherePa
  if (style === 'bar') return `${signed(gauge / PA_PER_BAR, 2)} bar g`
  if (gauge < -0.05 * PA_PER_PSI) return `${trimmed(-gauge / PA_PER_INHG, 1)} inHg vacuum`
  const psi = gauge / PA_PER_PSI
  return `${trimmed(psi, Math.abs(psi) < 20 ? 1 : 0)} psig`
}

/** An absolute pressure to read, as a working shows it. */
export function formatAbsolutePressure(pressurePa: number, style: PressureStyle): string {
  return style === 'bar'
    ? `${(pressurePa / PA_PER_BAR).toFixed(pressurePa < PA_PER_BAR ? 3 : 2)} bar abs`
    : `${(pressurePa / PA_PER_PSI).toFixed(pressurePa < PA_PER_BAR ? 2 : 1)} psia`
}

const VACUUM = new RegExp(`^(-?)(${NUMERAL}) ?(microns?|mtorr|torr|mbar|hpa|pa|in ?hg(?: ?vac(?:uum)?)?)?$`)

/**
 * Reads a vacuum gauge, which reads absolute: `500`, `500 micron`, `0.67 mbar`, `67 Pa`; a compound gauge's `29 inHg`
 * is below the local atmosphere.
 * @returns absolute Pa
 * @throws UnitError when it is no vacuum
 * @throws AmbiguousError when it can be read in several ways
 */
export function parseVacuum(
  text: string,
  style: VacuumStyle,
  localAtmospherePa = STANDARD_ATMOSPHERE_PA,
): number {
  refuseSpaced(text)
  const found = VACUUM.exec(tidy(text))
  const unit = (found?.[3] ?? style.toLowerCase()).replace(/ /g, '')
  if (!found || (found[1] && !unit.startsWith('inhg')))
    throw new UnitError(
      `"${text}" is not a vacuum Keg can read: write it like 480 micron, 64 Pa, 0.6 mbar or 29 inHg.`,
    )
  return readEach(
    text,
    found[2]!,
    (value) => {
      const pa = unit.startsWith('inhg')
        ? localAtmospherePa - value * PA_PER_INHG
        : value * vacuumUnitPa(unit)
      if (pa < 0) throw new UnitError(`"${text}" is below a perfect vacuum: check the number and its unit.`)
      if (pa > 110_000)
        throw new UnitError(`"${text}" is above atmosphere: a vacuum gauge cannot read that. Check the unit.`)
      return pa
    },
    found[3] ?? style,
  )
}

function vacuumUnitPa(unit: string): number {
  if (unit.startsWith('micron') || unit === 'mtorr') return PA_PER_MICRON
  if (unit === 'torr') return PA_PER_MICRON * 1000
  return unit === 'pa' ? 1 : 100
}

/** A vacuum to read, absolute, in micron (or Pa) as its gauge shows it: three digits, of what is below a hundred two. */
export function formatVacuum(pressurePa: number, style: VacuumStyle): string {
  const value = style === 'micron' ? pressurePa / PA_PER_MICRON : pressurePa
  return `${Number(value.toPrecision(value < 99.5 ? 2 : 3))} ${style === 'micron' ? 'micron' : 'Pa'}`
}

function signed(value: number, decimals: number): string {
  const text = value.toFixed(decimals)
  return Number(text) === 0 ? (0).toFixed(decimals) : text.replace('-', '−')
}
