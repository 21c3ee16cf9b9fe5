import {
  PA_PER_BAR,
  PA_PER_INHG,
  PA_PER_KPA,
  PA_PER_MICRON,
  PA_PER_PSI,
  STANDARD_ATMOSPHERE_PA,
} from './factors'
import { NUMERAL, readNumeral, tidy, trimmed } from './numeral'
import { UnitError } from './unit-error'

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
 * @returns absolute Pa
 * @throws UnitError when it is no pressure, or below a perfect vacuum
 */
export function parsePressure(
  text: string,
  style: PressureStyle,
  localAtmospherePa = STANDARD_ATMOSPHERE_PA,
): number {
  const found = GAUGE.exec(tidy(text))
  if (!found)
    throw new UnitError(
      `"${text}" is not a pressure Keg can read: write it like 118 psi, 8.1 bar or 10 inHg.`,
    )
  const value = readNumeral(found[2]!) * (found[1] ? -1 : 1)
  const pa = absolutePa(value, (found[3] ?? style).replace(/ /g, ''), localAtmospherePa)
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

const VACUUM = new RegExp(`^(${NUMERAL}) ?(microns?|mtorr|torr|mbar|hpa|pa)?$`)

/**
 * Reads a vacuum gauge, which reads absolute: `500`, `500 micron`, `0.67 mbar`, `67 Pa`.
 * @returns absolute Pa
 * @throws UnitError when it is no vacuum
 */
export function parseVacuum(text: string, style: VacuumStyle): number {
  const found = VACUUM.exec(tidy(text))
  if (!found)
    throw new UnitError(
      `"${text}" is not a vacuum Keg can read: write it like 480 micron, 64 Pa or 0.6 mbar.`,
    )
  const value = readNumeral(found[1]!)
  const unit = found[2] ?? (style === 'micron' ? 'micron' : 'pa')
  const pa =
    unit.startsWith('micron') || unit === 'mtorr'
      ? value * PA_PER_MICRON
      : unit === 'torr'
        ? value * PA_PER_MICRON * 1000
        : unit === 'pa'
          ? value
          : value * 100
  if (pa > 110_000)
    throw new UnitError(`"${text}" is above atmosphere: a vacuum gauge cannot read that. Check the unit.`)
  return pa
}

/** A vacuum to read, absolute. Two or three digits are all that such gauges know. */
export function formatVacuum(pressurePa: number, style: VacuumStyle): string {
  if (style === 'micron') return `${Number((pressurePa / PA_PER_MICRON).toPrecision(3))} micron`
  return `${Number(pressurePa.toPrecision(3))} Pa`
}

function signed(value: number, decimals: number): string {
  const text = value.toFixed(decimals)
  return Number(text) === 0 ? (0).toFixed(decimals) : text.replace('-', '−')
}
