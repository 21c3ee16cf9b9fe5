import { type Cylinder, leastInMg, mostInMg } from '../cylinders'
import { liquidDensity, OutOfRangeError, saturationPressurePa, type SaturationTable } from '../refrigerants'
import { MG_PER_KG, ZERO_CELSIUS_K } from '../units'
import { cylinderHeelKg, drawnDownKg } from './from-cylinder'
import { PLENTY_K } from './warm-water'

/** Whose gas it is, in the order in which it is taken. */
export const SOURCES = ['own-gas', 'owners-gas', 'recovered', 'virgin'] as const
export type SourceKind = (typeof SOURCES)[number]

type Held = Pick<
  Cylinder,
  'kind' | 'condition' | 'ownerCustomerId' | 'waterCapacityMg' | 'balanceMg' | 'offMg'
>

/**
 * What kind of source a cylinder is for a system: this job's own gas, its owner's, the shop's recovered gas that is
 * clean, or virgin.
 */
export function sourceKind(
  { kind, condition, ownerCustomerId }: Pick<Held, 'kind' | 'condition' | 'ownerCustomerId'>,
  { ownGasInIt, customerId }: { ownGasInIt: boolean; customerId: string | null },
): SourceKind {
  if (ownGasInIt) return 'own-gas'
  if (ownerCustomerId !== null && ownerCustomerId === customerId) return 'owners-gas'
  if (kind === 'virgin' || kind === 'one-way') return 'virgin'
  // A station's tank is filled from supply cylinders and with what it recovered: clean as long as nobody says otherwise.
  return condition === 'clean' && kind === 'station' ? 'virgin' : 'recovered'
}

export interface Gives {
  /** What it can give at this temperature, mg. */
  leastMg: number
  mostMg: number
  /** What will stay in it, mg: its volume full of vapour, and liquid that the tube does not reach. */
  staysLeastMg: number
  staysMostMg: number
  /** What is left once the running system has drawn the vapour down to its suction pressure, mg; less in warm water. */
  drawnDown?: { staysMg: number; warmStaysMg: number }
}

/** A running system that draws vapour. */
export interface Draws {
  molarMassG: number
  /** Suction pressure, absolute Pa; left out: of a machine that boils at 0 C. */
  suctionPa?: number | undefined
}

/** Liquid below the end of a dip tube, as a share of the volume: an assumption. A one-way cylinder stands upside down. */
const BELOW_TUBE = 0.01

/**
 * What a cylinder can give as liquid at a temperature, by pressure alone.
 * @returns undefined where its volume is not known, or the gas has no liquid at that temperature
 */
export function gives(
  cylinder: Held,
  table: SaturationTable,
  tempK: number,
  draws?: Draws,
): Gives | undefined {
  if (cylinder.waterCapacityMg === null) return undefined
  const volumeM3 = cylinder.waterCapacityMg / MG_PER_KG / WATER_KG_M3
  try {
    const vapourMg = cylinderHeelKg(table, volumeM3, tempK) * MG_PER_KG
    const tubeMg =
      cylinder.kind === 'one-way' ? 0 : BELOW_TUBE * volumeM3 * liquidDensity(table, tempK) * MG_PER_KG
    const [least, most] = [leastInMg(cylinder), mostInMg(cylinder)]
    return {
      leastMg: Math.max(0, Math.round(least - vapourMg - tubeMg)),
      mostMg: Math.max(0, Math.round(most - vapourMg)),
      staysLeastMg: Math.round(Math.min(vapourMg, most)),
      staysMostMg: Math.round(Math.min(vapourMg + tubeMg, most)),
      ...(draws && { drawnDown: drawnDown(table, volumeM3, tempK, most, draws) }),
    }
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}

function drawnDown(
  table: SaturationTable,
  volumeM3: number,
  tempK: number,
  mostMg: number,
  { molarMassG, suctionPa = saturationPressurePa(table, ZERO_CELSIUS_K, 'dew') }: Draws,
) {
  const stays = (ofK: number) =>
    Math.round(Math.min(mostMg, drawnDownKg(table, molarMassG, volumeM3, suctionPa, ofK) * MG_PER_KG))
  return { staysMg: stays(tempK), warmStaysMg: stays(Math.max(tempK, PLENTY_K)) }
}

/** Water at 20 C. */
const WATER_KG_M3 = 998.2

export interface Source {
  cylinderId: string
  kind: SourceKind
  gives: Gives | undefined
}

export interface Take {
  cylinderId: string
  kind: SourceKind
  massMg: number
}

export interface SourcePlan {
  takes: Take[]
  /** What no cylinder can be counted on for, mg. */
  shortMg: number
}

/** Nobody changes hoses for less than this share of what is wanted, as long as the others have it. */
const WORTH = 0.05

/**
 * Which cylinders a charge is drawn from, in order: this job's gas, the owner's, recovered, virgin; of one kind the one
 * that has just enough, else the fullest. Each is counted on for the least that it gives.
 */
export function planSources(sources: readonly Source[], wantedMg: number): SourcePlan {
  const from = (leastMg: number) =>
    planned(
      sources.filter((each) => (each.gives?.leastMg ?? 0) >= leastMg),
      wantedMg,
    )
  const worthIt = from(Math.max(1, WORTH * wantedMg))
  return worthIt.shortMg > 0 ? from(1) : worthIt
}

function planned(sources: readonly Source[], wantedMg: number): SourcePlan {
  const takes: Take[] = []
  let leftMg = wantedMg
  for (const kind of SOURCES) {
    const of = sources.filter((each) => each.kind === kind)
    while (leftMg > 0 && of.length > 0) {
      const enough = of
        .filter((each) => each.gives!.leastMg >= leftMg)
        .sort((a, b) => a.gives!.leastMg - b.gives!.leastMg)
      const next = enough[0] ?? of.toSorted((a, b) => b.gives!.leastMg - a.gives!.leastMg)[0]!
      of.splice(of.indexOf(next), 1)
      const massMg = Math.min(leftMg, next.gives!.leastMg)
      takes.push({ cylinderId: next.cylinderId, kind, massMg })
      leftMg -= massMg
    }
  }
  return { takes, shortMg: Math.max(0, leftMg) }
}
