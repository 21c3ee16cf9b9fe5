import type { Fluid } from '../fluid'
import { cylinderPa, liquidIn } from './cylinder'
import type { Inside } from './circuit'
import { inSeries, liquidFlow, vapourFlow } from './flow'
import type { PlantParameters } from './parameters'
import { type Passage, portK } from './recovery'
import { hoseVapourKg, type PlantState } from './state'

/** From the cylinder through one hose into the system: by pressure alone, as far as it goes. The hose fills first. */
export function charge(
  fluid: Fluid,
  parameters: PlantParameters,
  state: PlantState,
  now: Inside,
  dt: number,
): Passage {
  const { cylinder, system, controls } = state
  const shell = parameters.cylinder
  const { refrigerantPa, airPa } = cylinderPa(fluid, shell, cylinder)
  const cylinderTotalPa = refrigerantPa + airPa
  const still = {
    portKgS: 0,
    liquidKgS: 0,
    cylinderKgS: 0,
    cylinderJKg: 0,
    suctionPa: now.totalPa,
    dischargePa: cylinderTotalPa,
  }
  if (controls.valve === 'closed' || !controls.cylinderOpen) return still
  const k = inSeries(portK(parameters, state), parameters.hose.suctionK)
  const liquidKg = liquidIn(fluid, shell.volumeM3, cylinder.kg, cylinder.tempK)
  const density = fluid.liquid(cylinder.tempK)
  if (cylinderTotalPa < now.totalPa) {
    const back = Math.min(
      vapourFlow(fluid, k, now.totalPa, cylinderTotalPa, system.mainK),
      (0.5 * system.vapourKg) / dt,
    )
    return { ...still, portKgS: back, cylinderKgS: back, cylinderJKg: fluid.vapourJ(system.mainK) }
  }
  // The last of the liquid comes with vapour.
  const share = controls.valve === 'liquid' ? Math.min(1, liquidKg / 0.05) : 0
  const liquidKgS = Math.min(share * liquidFlow(k, density, cylinderTotalPa, now.totalPa), liquidKg / dt)
  const vapourKgS = Math.min(
    (1 - share) * vapourFlow(fluid, k, cylinderTotalPa, now.totalPa, cylinder.tempK),
    (0.2 * Math.max(0, cylinder.kg - liquidKg)) / dt,
  )
  const flowKgS = liquidKgS + vapourKgS
  if (flowKgS <= 0) return still
  const hoseFullKg =
    share > 0.5
      ? parameters.hose.volumeM3 * density
      : hoseVapourKg(fluid, parameters.hose.volumeM3, cylinderTotalPa, parameters.ambientK)
  const intoHose = Math.min(flowKgS, Math.max(0, hoseFullKg - state.hoseKg) / dt)
  const cylinderJKg =
    (liquidKgS * fluid.liquidJ(cylinder.tempK) + vapourKgS * fluid.vapourJ(cylinder.tempK)) / flowKgS
  const through = (flowKgS - intoHose) / flowKgS
  return {
    ...still,
    portKgS: -flowKgS * through,
    liquidKgS: -liquidKgS * through,
    cylinderKgS: -flowKgS,
    cylinderJKg,
  }
}
