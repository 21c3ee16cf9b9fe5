import { GAS_CONSTANT } from '#core/refrigerants'
import { type Fluid, fluidOf, vapourDensityOf, vapourPa } from '../fluid'
import { workJKg } from './machine'

/** A system that runs: lumped, dynamic. SI. The typical values are those of 2.2 kg R-410A. */
export interface CycleParameters {
  refrigerant: string
  chargeKg: number
  evaporatorM3: number
  condenserM3: number
  liquidLineM3: number
  displacementM3S: number
  clearance: number
  polytropic: number
  efficiency: number
  /** 1: as new. */
  health: number
  evaporatorWK: number
  condenserWK: number
  evaporatorAirWK: number
  condenserAirWK: number
  evaporatorJK: number
  condenserJK: number
  airOnK: number
  ambientK: number
  /** Flow coefficient of the expansion device wide open, m2; of a restriction before it, m2 (0: none). */
  valveK: number
  restrictionK: number
  device: 'valve' | 'orifice' | 'stuck'
  /** How far an orifice or a stuck valve is open. */
  opening: number
  superheatSetK: number
  /** Air in the condenser, mol. */
  airMol: number
  /** The low-side switch stops it here, Pa absolute; 0: none. */
  lowSwitchPa: number
}

export const TYPICAL_CYCLE: CycleParameters = {
  refrigerant: 'R-410A',
  chargeKg: 2.2,
  evaporatorM3: 1.8e-3,
  condenserM3: 2.6e-3,
  liquidLineM3: 0.6e-3,
  displacementM3S: 1.03e-3,
  clearance: 0.04,
  polytropic: 1.12,
  efficiency: 0.62,
  health: 1,
  evaporatorWK: 700,
  condenserWK: 900,
  evaporatorAirWK: 620,
  condenserAirWK: 1_400,
  evaporatorJK: 6_000,
  condenserJK: 8_000,
  airOnK: 298.15,
  ambientK: 305.15,
  valveK: 1.9e-6,
  restrictionK: 0,
  device: 'valve',
  opening: 0.34,
  superheatSetK: 6,
  airMol: 0,
  lowSwitchPa: 0,
}

export interface CycleState {
  evaporatorK: number
  condenserK: number
  evaporatorKg: number
  condenserKg: number
  opening: number
  tripped: boolean
}

/** What one reads on it. Temperatures in K, pressures in Pa absolute. */
export interface CycleReadings {
  lowPa: number
  headPa: number
  superheatK: number
  subcoolingK: number
  /** Air on less boiling temperature; condensing temperature less the air around. */
  splitK: number
  overAmbientK: number
  airOffK: number
  condenserAirOffK: number
  suctionK: number
  liquidK: number
  /** Liquid that flashes in a restriction cools behind it. */
  drierDropK: number
  compressorKgS: number
}

const WETTED = 0.3
const SEALED = 0.22
/** Heat capacity of low-pressure vapour, J/(kg K): the tables know saturation only. */
const VAPOUR_CP = 1_000
const VALVE_PER_S = 0.0009

export function newCycle(of: CycleParameters): CycleState {
  const share = Math.min(of.chargeKg * 0.25, of.chargeKg)
  return {
    evaporatorK: of.airOnK - 15,
    condenserK: of.ambientK + 12,
    evaporatorKg: share,
    condenserKg: of.chargeKg - share,
    opening: of.device === 'valve' ? 0.3 : of.opening,
    tripped: false,
  }
}

/**
 * One step of a running system, in place; what is taken from or put into it from outside comes with it.
 * @param pushKgS liquid that leaves at the liquid line, into a cylinder
 * @param feedKgS refrigerant that is let in at the suction side
 */
export function runCycle(
  of: CycleParameters,
  state: CycleState,
  dt: number,
  outside: { pushKgS?: number; feedKgS?: number; expansionShut?: boolean } = {},
): CycleReadings {
  const fluid = fluidOf(of.refrigerant)
  const low = evaporator(fluid, of, state)
  const high = condenser(fluid, of, state)
  if (of.lowSwitchPa > 0 && low.pressurePa < of.lowSwitchPa) state.tripped = true
  const suctionK = state.evaporatorK + low.superheatK
  const ratio = high.headPa / low.pressurePa
  const filling = 1 + of.clearance - of.clearance * Math.max(1, ratio) ** (1 / of.polytropic)
  const running = state.tripped ? 0 : Math.max(0, filling) * of.health
  const dryKgS = running * of.displacementM3S * vapourDensityOf(fluid, low.pressurePa, suctionK)
  // Liquid that is carried over fills part of the stroke.
  const flowKgS = Math.min(dryKgS, (0.5 * state.evaporatorKg) / dt)
  const work = workJKg(fluid, of.polytropic, ratio, suctionK) / of.efficiency
  const suctionJ = fluid.vapourJ(state.evaporatorK) + VAPOUR_CP * low.superheatK
  const liquidK = state.condenserK - high.subcoolingK
  const enteringJ = fluid.liquidJ(liquidK)
  const expansion = outside.expansionShut ? 0 : expansionKgS(fluid, of, state, low, high)
  const through = Math.min(expansion, (0.5 * state.condenserKg) / dt)
  const push = Math.min(outside.pushKgS ?? 0, (0.5 * high.liquidKg) / dt)
  const feed = outside.feedKgS ?? 0

  const boiledW = flowKgS * (1 - low.wet) * (suctionJ - enteringJ)
  state.evaporatorK += (dt * (low.heatW - boiledW)) / of.evaporatorJK
  state.condenserK +=
    (dt * (flowKgS * (suctionJ + work - fluid.liquidJ(state.condenserK)) - high.heatW)) / of.condenserJK
  state.evaporatorKg += dt * (through + feed - flowKgS)
  state.condenserKg += dt * (flowKgS - through - push)
  if (of.device === 'valve')
    state.opening = Math.max(
      0.04,
      Math.min(1.2, state.opening + dt * VALVE_PER_S * (low.superheatK - of.superheatSetK)),
    )
  return {
    lowPa: low.pressurePa,
    headPa: high.headPa,
    superheatK: low.superheatK,
    subcoolingK: fluid.bubbleK(high.headPa) - liquidK,
    splitK: of.airOnK - state.evaporatorK,
    overAmbientK: fluid.bubbleK(high.headPa) - of.ambientK,
    airOffK: of.airOnK - low.heatW / of.evaporatorAirWK,
    condenserAirOffK: of.ambientK + high.heatW / of.condenserAirWK,
    suctionK,
    liquidK,
    drierDropK: dropOverK(fluid, of, through, liquidK, high.headPa),
    compressorKgS: flowKgS,
  }
}

function evaporator(fluid: Fluid, of: CycleParameters, { evaporatorK: tempK, evaporatorKg }: CycleState) {
  const vapour = fluid.vapour(tempK)
  const liquid = fluid.liquid(tempK)
  const liquidKg = Math.max(0, (evaporatorKg - of.evaporatorM3 * vapour) / (1 - vapour / liquid))
  const full = WETTED * of.evaporatorM3 * liquid
  const wetted = Math.min(1, liquidKg / full)
  const air = of.evaporatorAirWK
  return {
    pressurePa:
      liquidKg > 0
        ? fluid.dewPa(tempK)
        : vapourPa(fluid, Math.max(1e-6, evaporatorKg) / of.evaporatorM3, tempK),
    heatW: air * (1 - Math.exp((-of.evaporatorWK * wetted) / air)) * (of.airOnK - tempK),
    superheatK: Math.max(0, (of.airOnK - tempK) * (1 - Math.exp(-6 * (1 - wetted)))),
    wet: Math.min(0.6, Math.max(0, liquidKg / full - 1)),
  }
}

function condenser(fluid: Fluid, of: CycleParameters, { condenserK: tempK, condenserKg }: CycleState) {
  const vapour = fluid.vapour(tempK)
  const liquid = fluid.liquid(tempK)
  const roomM3 = of.condenserM3 + of.liquidLineM3
  const liquidKg = Math.max(0, (condenserKg - roomM3 * vapour) / (1 - vapour / liquid))
  const seat = of.liquidLineM3 * liquid + SEALED * of.condenserM3 * liquid
  const flooded = Math.max(0, Math.min(0.9, (liquidKg - seat) / (of.condenserM3 * liquid)))
  const air = of.condenserAirWK
  const refrigerantPa =
    liquidKg > 0 ? fluid.bubblePa(tempK) : vapourPa(fluid, Math.max(1e-6, condenserKg) / roomM3, tempK)
  return {
    liquidKg,
    headPa: refrigerantPa + (of.airMol * GAS_CONSTANT * tempK) / of.condenserM3,
    heatW: air * (1 - Math.exp((-of.condenserWK * (1 - flooded)) / air)) * (tempK - of.ambientK),
    subcoolingK: Math.max(0, (tempK - of.ambientK) * (1 - Math.exp(-7 * flooded))),
    seal: Math.min(1, liquidKg / seat),
  }
}

/** The pressure that a restriction takes, and how far below the liquid's temperature that one boils. */
function dropOverK(fluid: Fluid, of: CycleParameters, flowKgS: number, liquidK: number, headPa: number) {
  if (of.restrictionK === 0) return 0
  const lostPa = (flowKgS / of.restrictionK) ** 2 / (2 * fluid.liquid(liquidK))
  const behindPa = Math.max(fluid.bubblePa(200), headPa - lostPa)
  return Math.max(0, liquidK - fluid.bubbleK(behindPa))
}

function expansionKgS(
  fluid: Fluid,
  of: CycleParameters,
  state: CycleState,
  low: { pressurePa: number },
  high: { headPa: number; seal: number; subcoolingK: number },
): number {
  const open = state.opening * of.valveK
  const k = of.restrictionK > 0 ? 1 / Math.sqrt(1 / open ** 2 + 1 / of.restrictionK ** 2) : open
  const flash = 0.12 + 0.88 * high.seal ** 2
  const most = high.subcoolingK < 1 && high.seal < 1 ? 0.35 + 0.65 * high.subcoolingK : 1
  return (
    k *
    Math.sqrt(2 * fluid.liquid(state.condenserK) * Math.max(0, high.headPa - low.pressurePa)) *
    flash *
    most
  )
}
