import { ZERO_CELSIUS_K } from '#core/units'
import { fluidOf } from '../fluid'
import { cylinderPa, inside, type PlantState } from '../plant'
import type { Scenario } from './scenario'

type Column = [name: string, value: (state: PlantState, scenario: Scenario) => number | string]

const six = (value: number) => (Number.isInteger(value) ? String(value) : value.toPrecision(6))
const celsius = (tempK: number) => tempK - ZERO_CELSIUS_K
const air = (state: PlantState, { parameters }: Scenario) =>
  inside(fluidOf(parameters.refrigerant), parameters, state.system)
const held = ({ cylinder }: PlantState, { parameters }: Scenario) =>
  cylinderPa(fluidOf(parameters.refrigerant), parameters.cylinder, cylinder)

/** What is being done, in a word. */
export function modeOf({ controls, machine }: PlantState): string {
  if (controls.compressor) return 'compressor'
  if (controls.line === 'pump') return controls.pump ? 'pump' : 'hold'
  if (controls.line === 'cylinder') return controls.valve === 'closed' ? 'off' : 'charge'
  if (controls.line !== 'machine') return 'off'
  if (controls.machine === 'purge') return 'purge'
  if (controls.machine === 'run') return machine.cutOut ? 'cut-out' : machine.stoppedItself ? 'off' : 'run'
  return controls.valve === 'closed' ? 'off' : 'passive'
}

/** Columns by the kind of scenario; SI, temperatures in Celsius, pressures absolute. */
export const COLUMNS: Record<Scenario['columns'], readonly Column[]> = {
  recovery: [
    ['t_s', ({ seconds }) => seconds.toFixed(2)],
    ['mode', modeOf],
    ['p_sys_Pa', ({ seen }) => seen.systemPa],
    ['p_suction_Pa', ({ seen }) => seen.suctionPa],
    ['mdot_port_kg_s', ({ seen }) => seen.portKgS],
    ['m_vapour_kg', ({ system }) => system.vapourKg],
    ['m_liquid_kg', ({ system }) => system.liquidKg],
    ['m_pocket_kg', ({ system }) => system.pocketKg],
    ['m_oil_kg', ({ system }) => system.dissolvedKg],
    ['m_holdup_kg', ({ machine }) => machine.holdupKg],
    ['m_cyl_kg', ({ cylinder }) => cylinder.kg],
    ['T_main_C', ({ system }) => celsius(system.mainK)],
    ['T_pocket_C', ({ system }) => celsius(system.pocketK)],
    ['T_cyl_C', ({ cylinder }) => celsius(cylinder.tempK)],
    ['p_cyl_Pa', (state, scenario) => held(state, scenario).refrigerantPa + held(state, scenario).airPa],
    ['p_air_cyl_Pa', (state, scenario) => held(state, scenario).airPa],
    ['p_air_sys_Pa', (state, scenario) => air(state, scenario).airPa],
  ],
  vacuum: [
    ['case', (_, { name }) => name],
    ['t_s', ({ seconds }) => seconds.toFixed(1)],
    ['p_sys_Pa', ({ seen }) => seen.systemPa],
    ['p_air_Pa', (state, scenario) => air(state, scenario).airPa],
    ['p_water_Pa', (state, scenario) => air(state, scenario).waterPa],
    ['p_pump_Pa', ({ seen }) => seen.pumpPa],
    ['water_g', ({ system }) => system.waterKg * 1_000],
    ['T_water_C', ({ system }) => celsius(system.waterK)],
    ['ice_fraction', ({ system }) => (system.waterKg > 0 ? system.waterIceKg / system.waterKg : 0)],
  ],
  running: [
    ['t_s', ({ seconds }) => seconds.toFixed(2)],
    ['mode', modeOf],
    ['p_low_Pa', ({ seen }) => seen.systemPa],
    ['p_high_Pa', ({ seen }) => seen.highPa],
    ['superheat_K', ({ seen }) => seen.running?.superheatK ?? 0],
    ['subcooling_K', ({ seen }) => seen.running?.subcoolingK ?? 0],
    ['T_air_off_C', ({ seen }) => (seen.running ? celsius(seen.running.airOffK) : 0)],
    ['mdot_compressor_kg_s', ({ seen }) => seen.running?.compressorKgS ?? 0],
    ['m_cyl_kg', ({ cylinder }) => cylinder.kg],
  ],
}

export const headOf = ({ columns }: Scenario) => COLUMNS[columns].map(([name]) => name)

export const rowOf = (state: PlantState, scenario: Scenario) =>
  COLUMNS[scenario.columns].map(([, value]) => {
    const is = value(state, scenario)
    return typeof is === 'number' ? six(is) : is
  })
