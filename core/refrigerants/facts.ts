export type SafetyClass = 'A1' | 'A2L' | 'A2' | 'A3' | 'B1' | 'B2L'

export interface RefrigerantFacts {
  code: string
  molarMassG: number
  /** Bubble pressure at 40 C, absolute Pa: what classes go by. null: above its critical point. */
  bubble40Pa: number | null
  /** Shares by mass, 0 to 1. */
  composition: Record<string, number>
  /** ISO 817:2014 with amendments, ANSI/ASHRAE 34-2022. */
  safetyClass: SafetyClass
  flammable: boolean
  /** 100 years, mass-weighted from its components (fourth assessment report). */
  gwp: number
  /** Lower flammable limit, kg/m3; undefined where no figure is known. */
  lowerFlammableLimit?: number
}

/** Everything that is not A1. ISO 817:2014 with amendments, ANSI/ASHRAE 34-2022. */
const CLASSES: Record<string, SafetyClass> = {
  'R-32': 'A2L',
  'R-1234yf': 'A2L',
  'R-1234ze(E)': 'A2L',
  'R-452B': 'A2L',
  'R-454A': 'A2L',
  'R-454B': 'A2L',
  'R-454C': 'A2L',
  'R-455A': 'A2L',
  'R-152a': 'A2',
  'R-290': 'A3',
  'R-600a': 'A3',
  'R-123': 'B1',
  'R-717': 'B2L',
}

/** kg/m3 at 23 °C, ISO 817:2014 and ANSI/ASHRAE 34-2022; the safety data sheet of the day wins. */
const LOWER_FLAMMABLE_LIMIT: Record<string, number> = {
  'R-32': 0.307,
  'R-1234yf': 0.289,
  'R-454B': 0.296,
  'R-454C': 0.293,
  'R-455A': 0.431,
  'R-290': 0.038,
  'R-600a': 0.043,
  'R-717': 0.116,
  'R-152a': 0.13,
  'R-1234ze(E)': 0.303,
  'R-452B': 0.31,
  'R-454A': 0.278,
}

const COMPONENT_GWP: Record<string, number> = {
  R32: 675,
  R125: 3500,
  R134a: 1430,
  R143a: 4470,
  R152A: 124,
  R152a: 124,
  R1234yf: 4,
  'R1234ze(E)': 7,
  R22: 1810,
  R12: 10900,
  R115: 7370,
  R227EA: 3220,
  R290: 3,
  R600a: 3,
  'n-Butane': 3,
  IsoButane: 3,
  R744: 1,
  CarbonDioxide: 1,
  R717: 0,
  R13I1: 0.4,
  R123: 77,
  'R1233zd(E)': 4.5,
}

export function facts(
  code: string,
  molarMassG: number,
  bubble40Pa: number | null,
  composition: Record<string, number>,
): RefrigerantFacts {
  const safetyClass = CLASSES[code] ?? 'A1'
  return {
    code,
    molarMassG,
    bubble40Pa,
    composition,
    safetyClass,
    flammable: !safetyClass.endsWith('1'),
    gwp: Object.entries(composition).reduce((sum, [name, share]) => sum + share * gwpOf(name), 0),
    ...(LOWER_FLAMMABLE_LIMIT[code] === undefined
      ? {}
      : { lowerFlammableLimit: LOWER_FLAMMABLE_LIMIT[code] }),
  }
}

function gwpOf(component: string): number {
  const gwp = COMPONENT_GWP[component]
  if (gwp === undefined) throw new Error(`no warming potential is known for ${component}`)
  return gwp
}
