import { GAS_CONSTANT } from '#core/refrigerants'
import { type Fluid, vapourDensityOf } from '../fluid'
import type { PlantParameters } from './parameters'

type Machine = PlantParameters['machine']

/** Work on a kilogram of vapour, J/kg; nothing where the cylinder stands lower than the suction. */
export function workJKg(fluid: Fluid, polytropic: number, ratio: number, tempK: number): number {
  if (ratio <= 1) return 0
  const gas = (GAS_CONSTANT * tempK) / fluid.molarKg
  const power = (polytropic - 1) / polytropic
  return (gas / power) * (ratio ** power - 1)
}

/** What a piston moves at these pressures, kg/s: less as the clearance fills, and no more than its motor can. */
export function machineFlow(
  fluid: Fluid,
  machine: Machine,
  { suctionPa, dischargePa, tempK }: { suctionPa: number; dischargePa: number; tempK: number },
): number {
  const ratio = dischargePa / suctionPa
  const filling = 1 + machine.clearance - machine.clearance * Math.max(1, ratio) ** (1 / machine.polytropic)
  if (filling <= 0) return 0
  const swept = filling * machine.displacementM3S * vapourDensityOf(fluid, suctionPa, tempK)
  const work = workJKg(fluid, machine.polytropic, ratio, tempK)
  return work > 0 ? Math.min(swept, (machine.efficiency * machine.powerW) / work) : swept
}

/** What the machine and its discharge hose hold while it runs, kg. */
export function holdupTargetKg(
  fluid: Fluid,
  machine: Machine,
  dischargePa: number,
  ambientK: number,
): number {
  const tempK = Math.max(ambientK, fluid.bubbleK(dischargePa))
  const liquidM3 = machine.liquidShare * machine.volumeM3 + machine.dischargeHoseM3
  const gasM3 = (1 - machine.liquidShare) * machine.volumeM3
  return liquidM3 * fluid.liquid(tempK) + gasM3 * vapourDensityOf(fluid, dischargePa, tempK)
}

/** Enthalpy of what leaves its condenser, J/kg: cooled at most to a little above the air. */
export function leavingJKg(
  fluid: Fluid,
  machine: Machine,
  {
    enteringJKg,
    flowKgS,
    dischargePa,
    ambientK,
  }: Record<'enteringJKg' | 'flowKgS' | 'dischargePa' | 'ambientK', number>,
): number {
  if (flowKgS <= 0) return enteringJKg
  const heatW = Math.max(0, machine.condenserWK * (fluid.bubbleK(dischargePa) + 6 - ambientK))
  const most = enteringJKg - fluid.liquidJ(ambientK + 2)
  return enteringJKg - Math.min(heatW / flowKgS, most)
}
