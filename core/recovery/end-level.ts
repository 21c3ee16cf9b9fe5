import { refrigerant } from '../refrigerants'
import { KG_PER_LB, PA_PER_INHG, PA_PER_MICRON, PA_PER_PSI, STANDARD_ATMOSPHERE_PA } from '../units'

export type PressureClass = 'low' | 'medium' | 'high' | 'very-high'
export type EndLevelUse = 'appliance' | 'leaking' | 'small-sealed' | 'vehicle'

export interface EndLevel {
  /** Absolute Pa, at the standard atmosphere. */
  levelPa: number
  pressureClass: PressureClass
  rule:
    | 'very-high-0'
    | 'high-small-0'
    | 'high-large-10'
    | 'medium-small-10'
    | 'medium-large-15'
    | 'low-25-mmhg'
    | 'leaking-0'
    | 'small-sealed-4'
    | 'vehicle-4'
}

/** Bounds of the classes: saturation pressure at 104 F (40 C), psi absolute. */
const CLASS_PSIA = { medium: 45, high: 170, veryHigh: 355 }
const LARGE_KG = 200 * KG_PER_LB
const MM_OF_MERCURY_PA = 1000 * PA_PER_MICRON

/** Class by bubble pressure at 40 C (104 F); above its critical point a refrigerant is very high. @throws UnknownRefrigerantError */
export function pressureClass(code: string): PressureClass {
  const { bubble40Pa } = refrigerant(code)
  if (bubble40Pa === null) return 'very-high'
  const psia = bubble40Pa / PA_PER_PSI
  if (psia < CLASS_PSIA.medium) return 'low'
  if (psia < CLASS_PSIA.high) return 'medium'
  return psia <= CLASS_PSIA.veryHigh ? 'high' : 'very-high'
}

/**
 * How far down to recover before the circuit is opened: United States, 40 CFR 82.158 table 1, machines made after
 * 1993-11-15; vehicles 102 mmHg below atmosphere. A default to be checked against the text in force.
 * @throws UnknownRefrigerantError
 */
export function endLevel(code: string, chargeKg: number, use: EndLevelUse): EndLevel {
  const found = pressureClass(refrigerant(code).code)
  const level = (rule: EndLevel['rule'], belowInHg: number): EndLevel => ({
    rule,
    pressureClass: found,
    levelPa: STANDARD_ATMOSPHERE_PA - belowInHg * PA_PER_INHG,
  })
  if (use === 'vehicle') return level('vehicle-4', 4)
  if (use === 'small-sealed') return level('small-sealed-4', 4)
  if (use === 'leaking') return level('leaking-0', 0)
  const large = chargeKg >= LARGE_KG
  switch (found) {
    case 'very-high':
      return level('very-high-0', 0)
    case 'high':
      return large ? level('high-large-10', 10) : level('high-small-0', 0)
    case 'medium':
      return large ? level('medium-large-15', 15) : level('medium-small-10', 10)
    case 'low':
      return { rule: 'low-25-mmhg', pressureClass: found, levelPa: 25 * MM_OF_MERCURY_PA }
  }
}
