import { type PlantParameters, TYPICAL } from '../plant'

/** A vehicle as it comes into the bay; what is not said is as on most. */
export interface VehicleSetup {
  /** Of its charge, what is still in it. */
  chargeShare: number
  /** What an identifier would say of it. */
  gas?: string
  purityPct: number
  /** Oil that comes out with the gas, mL. */
  oilOutMl: number
  waterKg: number
  /** A hole, as the rise it makes under vacuum, Pa/s. */
  leakPaS: number
}

export const USUAL_VEHICLE: VehicleSetup = {
  chargeShare: 0.78,
  purityPct: 99.6,
  oilOutMl: 14,
  waterKg: 0,
  leakPaS: 0,
}

/** The tank as it stands in the station, and what is around. */
export interface TankSetup {
  volumeM3: number
  steelKg: number
  contentsKg: number
}

/** The plate that the vehicle below was tuned for, kg; others are the same, larger or smaller. */
const TUNED_KG = 0.55

/**
 * A vehicle's circuit on a station's hoses. It runs at 1.9 bar g low and 17 K over ambient at 25 C on R-134a and R-1234yf:
 * plausible, not validated against measurements.
 */
export function vehiclePlant(
  refrigerant: string,
  plateKg: number,
  { chargeShare, waterKg, leakPaS }: VehicleSetup,
  tank: TankSetup,
  ambientK: number,
): PlantParameters {
  const size = plateKg / TUNED_KG
  return {
    ...TYPICAL,
    refrigerant,
    ambientK,
    system: {
      ...TYPICAL.system,
      volumeM3: 3.6e-3 * size,
      chargeKg: plateKg * chargeShare,
      metalJK: 7_000 * size,
      uaOffWK: 50 * size,
      uaOnWK: 80 * size,
      pocketKg: 0.05 * size,
      pocketMetalJK: 300 * size,
      pocketUaOffWK: 3 * size,
      oilKg: 0.12 * size,
      oilS: 300,
    },
    // Couplers have no core to speak of, and a station's hoses are wide.
    port: { coreInK: 4e-6, coreOutK: 4e-6 },
    hose: { suctionK: 6e-6, dischargeK: 6e-6, volumeM3: 60e-6 },
    machine: { ...TYPICAL.machine, displacementM3S: 0.8e-3, volumeM3: 0.12e-3, autoStopPa: 45_000 },
    cylinder: { ...TYPICAL.cylinder, ...tank },
    vacuum: { ...TYPICAL.vacuum, hoseM: 1.8, hoses: 2, coreBoreM: 2.5e-3, waterKg, leakPaS },
    cycle: {
      ...TYPICAL.cycle,
      evaporatorM3: 0.5e-3 * size,
      condenserM3: 0.68e-3 * size,
      liquidLineM3: 0.1e-3 * size,
      displacementM3S: 1.3e-3 * size,
      evaporatorWK: 190 * size,
      condenserWK: 260 * size,
      evaporatorAirWK: 150 * size,
      condenserAirWK: 420 * size,
      evaporatorJK: 1_500 * size,
      condenserJK: 2_000 * size,
      airOnK: ambientK,
      valveK: 0.9e-6 * size,
    },
  }
}
