import { type CycleParameters, TYPICAL_CYCLE } from './cycle'

/**
 * What a plant is made of. SI; `K` of a port or hose is its flow coefficient in m2 (mass flow = K sqrt(2 rho dp) for
 * liquid). Typical values of the model in docs/rig.md: plausible, not validated against measurements.
 */
export interface PlantParameters {
  refrigerant: string
  ambientK: number
  /** Of the air around, Pa. */
  atmospherePa: number
  system: {
    volumeM3: number
    chargeKg: number
    /** Heat capacity of the metal that the liquid touches, J/K. */
    metalJK: number
    /** Heat from the air with fans off and on, W/K. */
    uaOffWK: number
    uaOnWK: number
    /** Evaporation of the main liquid: time constant, and the mass below which its surface shrinks. */
    evaporationS: number
    evaporationRefKg: number
    /** Liquid that sits trapped: accumulator, low points. */
    pocketKg: number
    pocketMetalJK: number
    pocketUaOffWK: number
    pocketUaOnWK: number
    pocketS: number
    pocketRefKg: number
    oilKg: number
    oilDensity: number
    /** Mass of refrigerant in a mass of oil at saturation. */
    solubility: number
    oilS: number
    /** How far the oil is saturated at the start. */
    oilSaturation: number
    /** Share of the liquid that the liquid port cannot reach. */
    unreachable: number
    /** Condensation of what flows in, s. */
    condensationS: number
    /** Air in it at the start, mol. */
    airMol: number
    /** Still water around the coil (a condenser cooled by water), kg; 0: none. */
    stillWaterKg: number
    /** Diameter of a hole, m; 0: tight. */
    holeM: number
  }
  port: { coreInK: number; coreOutK: number }
  hose: { suctionK: number; dischargeK: number; volumeM3: number }
  machine: {
    displacementM3S: number
    clearance: number
    polytropic: number
    powerW: number
    efficiency: number
    liquidCapKgS: number
    dischargeLossPa: number
    condenserWK: number
    volumeM3: number
    liquidShare: number
    dischargeHoseM3: number
    /** Through it while it stands still. */
    throughK: number
    holdupS: number
    purgeS: number
    /** It stops by itself this far below the air around, Pa; 0: never. */
    autoStopPa: number
    /** Above the air around, Pa. */
    cutOutPa: number
    cutOutResetPa: number
    /** Left in it from the last job, kg. */
    holdupKg: number
  }
  cylinder: {
    volumeM3: number
    steelKg: number
    contentsKg: number
    airPa: number
    /** W/K, in still air and in a water bath. */
    airWK: number
    bathWK: number
    /** Sun on it, W. */
    sunW: number
    /** At the start; ambient when not given. */
    tempK?: number
  }
  vacuum: {
    /** Pump, m3/s and Pa. */
    pumpM3S: number
    ultimatePa: number
    hoseBoreM: number
    hoseM: number
    coreBoreM: number
    coreM: number
    /** Hoses beside each other. */
    hoses: number
    waterKg: number
    /** What wet oil and walls hold for each pascal of water vapour, kg/(m3 Pa) by H, and how slowly they give it. */
    outgassingH: number
    outgassingS: number
    /** At the start, the walls hold this much, as the water pressure that they would stand at, Pa. */
    outgassingPa: number
    /** A hole under vacuum, as the rise it makes in this volume, Pa/s. */
    leakPaS: number
  }
  /** While its own compressor runs; charge and refrigerant are those of the plant. */
  cycle: Omit<CycleParameters, 'chargeKg' | 'refrigerant' | 'ambientK' | 'airMol'>
}

const {
  chargeKg: _charge,
  refrigerant: _refrigerant,
  ambientK: _ambient,
  airMol: _air,
  ...cycle
} = TYPICAL_CYCLE

export const TYPICAL: PlantParameters = {
  refrigerant: 'R-410A',
  ambientK: 298.15,
  atmospherePa: 101_325,
  system: {
    volumeM3: 14e-3,
    chargeKg: 3,
    metalJK: 8_000,
    uaOffWK: 20,
    uaOnWK: 120,
    evaporationS: 2,
    evaporationRefKg: 0.1,
    pocketKg: 0.25,
    pocketMetalJK: 350,
    pocketUaOffWK: 0.22,
    pocketUaOnWK: 6,
    pocketS: 15,
    pocketRefKg: 0.05,
    oilKg: 1.2,
    oilDensity: 960,
    solubility: 0.06,
    oilS: 1_500,
    oilSaturation: 0.8,
    unreachable: 0.25,
    condensationS: 60,
    airMol: 0,
    stillWaterKg: 0,
    holeM: 0,
  },
  port: { coreInK: 2e-6, coreOutK: 10e-6 },
  hose: { suctionK: 2.4e-6, dischargeK: 2.4e-6, volumeM3: 54e-6 },
  machine: {
    displacementM3S: 0.45e-3,
    clearance: 0.04,
    polytropic: 1.12,
    powerW: 560,
    efficiency: 0.55,
    liquidCapKgS: 0.05,
    dischargeLossPa: 30_000,
    condenserWK: 45,
    volumeM3: 0.35e-3,
    liquidShare: 0.15,
    dischargeHoseM3: 27e-6,
    throughK: 5e-6,
    holdupS: 5,
    purgeS: 20,
    autoStopPa: 34_000,
    cutOutPa: 38e5,
    cutOutResetPa: 30e5,
    holdupKg: 0,
  },
  cylinder: {
    volumeM3: 11.9e-3,
    steelKg: 6,
    contentsKg: 0,
    airPa: 300,
    airWK: 2.5,
    bathWK: 80,
    sunW: 0,
  },
  vacuum: {
    pumpM3S: 2.4e-3,
    ultimatePa: 2,
    hoseBoreM: 4.8e-3,
    hoseM: 1.5,
    coreBoreM: 1.5e-3,
    coreM: 0.01,
    hoses: 1,
    waterKg: 0,
    outgassingH: 0.6,
    outgassingS: 240,
    outgassingPa: 0,
    leakPaS: 0,
  },
  cycle,
}
