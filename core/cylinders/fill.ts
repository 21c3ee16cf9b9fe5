import {
  highestPressurePa,
  liquidDensity,
  OutOfRangeError,
  REFRIGERANTS,
  saturationPressurePa,
  tableOf,
} from '../refrigerants'
import { MG_PER_KG, ZERO_CELSIUS_K } from '../units'

/** Density of water at 20 C, kg/L: a stamped water capacity is a weight of water. */
const WATER_KG_PER_L = 0.9982
const AT_25_C = 25 + ZERO_CELSIUS_K
const AT_55_C = 55 + ZERO_CELSIUS_K

export type FillRuleCode = 'weight-80' | 'liquid-80-at-25' | 'not-full-at-55' | 'stamped-ratio'

export interface FillRule {
  rule: FillRuleCode
  /** Largest net mass by this rule; undefined where the rule does not apply. */
  netMg?: number
  /** Why it does not apply. */
  refused?: 'no-liquid-at-55'
}

export interface FillLimit {
  rules: FillRule[]
  governs: FillRuleCode
  /** Largest net mass, whole milligrams, shop margin taken off. */
  netMg: number
  /** Tare + net: the gross weight never to pass. */
  grossMg: number
  /** Inner volume, m3. */
  volumeM3: number
}

export interface FillInput {
  tareMg: number
  /** Stamped water capacity, not the size in the cylinder's name. */
  waterCapacityMg: number
  /** Code, or null for mixed or unknown contents: then the lowest density of all counts. */
  refrigerant: string | null
  /** Extra margin that the shop sets, percent of the net mass, 0 to 30. */
  marginPct?: number
  /** Stamped filling ratio, kg of refrigerant per kg of water capacity; where given it limits too. */
  fillingRatio?: number | null
}

/** The rules leave no figure for this cylinder and refrigerant. */
export class NoFillLimitError extends Error {
  override name = 'NoFillLimitError'
}

/**
 * Largest net mass a cylinder may hold, the smallest of three rules:
 * A 0.80 x water capacity (common weight rule of the trade: no standard says it of light gases);
 * B 80 % liquid full at 25 C / 77 F (guideline for recovery containers, AHRI Guideline K);
 * C not liquid-full at 55 C / 131 F (49 CFR 173.304a(b) in the United States, ADR P200 in Europe), less 2 % for oil;
 * and of a stamped filling ratio where there is one for this gas (ADR P200). Check the text in force where you work.
 * @throws NoFillLimitError for R-744 without a stamped ratio: it has no liquid at 55 C
 * @throws UnknownRefrigerantError
 */
export function fillLimit(input: FillInput): FillLimit {
  const { tareMg, waterCapacityMg, refrigerant, marginPct = 0, fillingRatio } = input
  const volumeL = waterCapacityMg / MG_PER_KG / WATER_KG_PER_L
  const volumeM3 = volumeL / 1000
  const mass = (kg: number) => Math.floor(kg * MG_PER_KG)

  const rules: FillRule[] = [
    { rule: 'weight-80', netMg: Math.floor(0.8 * waterCapacityMg) },
    rule('liquid-80-at-25', () => mass(0.8 * volumeM3 * densityAt(refrigerant, AT_25_C))),
    rule('not-full-at-55', () => mass(0.98 * volumeM3 * densityAt(refrigerant, AT_55_C))),
  ]
  if (rules[2]!.refused) {
    if (!fillingRatio)
      throw new NoFillLimitError(
        `${refrigerant} has no liquid at 55 °C: its cylinders are filled by their stamped filling ratio only. Add the ratio to the cylinder.`,
      )
    for (const each of rules) {
      delete each.netMg
      each.refused = 'no-liquid-at-55'
    }
  }
  if (fillingRatio) rules.push({ rule: 'stamped-ratio', netMg: Math.floor(fillingRatio * waterCapacityMg) })

  const governing = rules.filter((r) => r.netMg !== undefined).reduce((a, b) => (b.netMg! < a.netMg! ? b : a))
  const netMg = Math.floor(governing.netMg! * (1 - marginPct / 100))
  return { rules, governs: governing.rule, netMg, grossMg: tareMg + netMg, volumeM3 }
}

/**
 * Share of the volume that liquid takes, 0 to 1 and beyond (1 or more: liquid-full).
 * @param tempK e.g. the present temperature, or 328.15 K (55 C)
 * @throws OutOfRangeError
 */
export function liquidLevel(netKg: number, volumeM3: number, refrigerant: string, tempK: number): number {
  return netKg / liquidDensity(tableOf(refrigerant), tempK) / volumeM3
}

/**
 * What a cylinder's service pressure times 5/4 must reach, absolute Pa: the bubble pressure at 55 C (transport rule);
 * of a gas that has no liquid there the highest pressure of its table, which ends at the critical point. What
 * such a cylinder must bear beyond that follows from its stamped filling ratio.
 */
export function neededPressurePa(refrigerant: string): number {
  const table = tableOf(refrigerant)
  return within(() => saturationPressurePa(table, AT_55_C, 'bubble')) ?? highestPressurePa(table)
}

function rule(code: FillRuleCode, netMg: () => number): FillRule {
  const value = within(netMg)
  return value === undefined ? { rule: code, refused: 'no-liquid-at-55' } : { rule: code, netMg: value }
}

/** The densest that a liquid may be at a temperature, kg/m3. @param refrigerant null: of any gas there is */
export function densestLiquid(refrigerant: string | null, tempK: number): number {
  const known = refrigerant === null ? undefined : within(() => liquidDensity(tableOf(refrigerant), tempK))
  return (
    known ?? Math.max(...REFRIGERANTS.map((code) => within(() => liquidDensity(tableOf(code), tempK)) ?? 0))
  )
}

const lightest: Record<number, number> = {}

function densityAt(refrigerant: string | null, tempK: number): number {
  if (refrigerant) return liquidDensity(tableOf(refrigerant), tempK)
  lightest[tempK] ??= Math.min(
    ...REFRIGERANTS.map((code) => within(() => liquidDensity(tableOf(code), tempK)) ?? Infinity),
  )
  return lightest[tempK]
}

function within<T>(look: () => T): T | undefined {
  try {
    return look()
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}
