import type { Metering } from '../superheat'
import type { Figure } from './figures'
import type { Service, ServiceFacts } from './service'

/** What a healthy machine may be at, and then reads like a faulty one. Whoever stands there can say. */
export const STATES = ['part-load', 'head-held', 'heating', 'humid'] as const
export type MachineState = (typeof STATES)[number]

export const isState = (cause: Cause): cause is MachineState => (STATES as readonly Cause[]).includes(cause)

export const CAUSES = [
  'all-right',
  'charge-low',
  'charge-high',
  'air',
  'condenser',
  'restriction',
  'valve-starved',
  'valve-flooded',
  'evaporator-air',
  'compressor',
  ...STATES,
] as const
export type Cause = (typeof CAUSES)[number]

/**
 * Where the figures lie while a cause is at work: figures with a healthy range in halves of that range from its middle
 * (-1 and 1 are its ends), the others in their own unit. A figure that is not named may be anything.
 */
export type Form = Partial<Record<Figure, readonly [least: number, most: number]>>

const FAR = Infinity
const NO_DROP = [-2, 1] as const
const NO_AIR = [-FAR, 1.5] as const

/** Condensing by which heads are held in the cold, and air that a heat pump draws its heat from, K. */
const HELD_K = [288, 311] as const
const OUTDOORS_K = [250, 291] as const

/** Of a valve that holds its superheat. A cause has a form for each of its sizes. */
const VALVE: Record<Cause, Form[]> = {
  // Less is pumped through coils of full size: everything lies closer to the air.
  'part-load': [
    {
      td: [-FAR, 0.2],
      'over-ambient': [-3.5, 0.4],
      superheat: [-1.2, 1.2],
      subcooling: [-2, 1.2],
      'air-drop': [-FAR, 0.4],
      standing: NO_AIR,
      'drier-drop': NO_DROP,
    },
  ],
  'head-held': [
    {
      td: [-1.2, 1.2],
      'over-ambient': [0.3, FAR],
      condensing: HELD_K,
      superheat: [-1.2, 1.2],
      subcooling: [-1.2, FAR],
      'air-drop': [-1.3, 1.3],
      standing: NO_AIR,
      'drier-drop': NO_DROP,
    },
  ],
  // The coils have changed sides: outdoor air goes onto the evaporator, and the room is around the condenser.
  heating: [
    {
      td: [-FAR, 0],
      'over-ambient': [-0.2, FAR],
      'air-on': OUTDOORS_K,
      superheat: [-2.2, 1.2],
      subcooling: [-1.3, 2],
      'air-drop': [-FAR, 0.2],
      'drier-drop': NO_DROP,
    },
  ],
  // The work goes into water: the air cools less.
  humid: [
    {
      td: [-1.3, 1.1],
      'over-ambient': [-1.1, 1.3],
      superheat: [-1.2, 1.2],
      subcooling: [-1.2, 1.2],
      'air-drop': [-FAR, 1.3],
      standing: NO_AIR,
      'drier-drop': NO_DROP,
    },
  ],
  'all-right': [
    {
      td: [-1.1, 1.1],
      'over-ambient': [-1.1, 1.1],
      superheat: [-1.1, 1.1],
      subcooling: [-1.1, 1.1],
      'air-drop': [-1.1, 1.3],
      'air-rise-share': [0.28, 0.8],
      'drier-drop': NO_DROP,
      standing: NO_AIR,
    },
  ],
  'charge-low': [
    // The valve still makes up for it, wide open.
    {
      td: [-1.2, 0.6],
      'over-ambient': [-1.5, 0.6],
      superheat: [-1, 2.5],
      subcooling: [-FAR, -1.4],
      'air-drop': [-1.5, 0.8],
      approach: [5, FAR],
    },
    {
      td: [-1, FAR],
      'over-ambient': [-3, 0.3],
      superheat: [1.5, FAR],
      subcooling: [-FAR, -1.6],
      'air-drop': [-FAR, 0.5],
    },
  ],
  'charge-high': [
    {
      td: [-1.2, 0.8],
      'over-ambient': [-0.4, 1.4],
      superheat: [-1, 1],
      subcooling: [1.4, 4.5],
      'air-drop': [-1, 1.2],
      approach: [-2, 5],
      'air-rise-share': [0.2, 0.6],
      standing: NO_AIR,
      'drier-drop': NO_DROP,
    },
    {
      td: [-1.4, 0.8],
      'over-ambient': [0.3, FAR],
      superheat: [-1, 1],
      subcooling: [3.5, FAR],
      'air-drop': [-1.2, 1.2],
      approach: [-2, 4],
      'air-rise-share': [0.1, 0.45],
      standing: NO_AIR,
      'drier-drop': NO_DROP,
    },
  ],
  air: [
    {
      td: [-1.4, 0.8],
      'over-ambient': [0.4, FAR],
      superheat: [-1, 1],
      subcooling: [1, FAR],
      'air-drop': [-1.4, 1.2],
      approach: [3, 10],
      'air-rise-share': [0.12, 0.42],
      standing: [2.5, FAR],
      'drier-drop': NO_DROP,
    },
  ],
  condenser: [
    {
      td: [-1.5, 0.8],
      'over-ambient': [0.6, FAR],
      superheat: [-1, 1],
      subcooling: [-0.3, FAR],
      'air-drop': [-1.5, 1.2],
      approach: [5, FAR],
      'air-rise-share': [0.36, 1],
      standing: NO_AIR,
      'drier-drop': NO_DROP,
    },
  ],
  restriction: [
    {
      td: [-0.8, FAR],
      'over-ambient': [-2.5, 0.7],
      superheat: [2, FAR],
      subcooling: [-0.8, FAR],
      'air-drop': [-FAR, 0.4],
      'drier-drop': [1.5, FAR],
    },
  ],
  'valve-starved': [
    {
      td: [-0.8, FAR],
      'over-ambient': [-2.5, 0.7],
      superheat: [2, FAR],
      subcooling: [-0.8, FAR],
      'air-drop': [-FAR, 0.4],
      'drier-drop': NO_DROP,
    },
  ],
  'valve-flooded': [
    {
      td: [-FAR, -0.9],
      'over-ambient': [-0.3, 1.6],
      superheat: [-FAR, -1.8],
      subcooling: [-FAR, 0.6],
      'air-drop': [-FAR, 0],
      'drier-drop': NO_DROP,
    },
  ],
  'evaporator-air': [
    {
      td: [-0.2, FAR],
      'over-ambient': [-2, 0.5],
      superheat: [-1.2, 1.2],
      subcooling: [-2, 1],
      'air-drop': [1.2, FAR],
      'drier-drop': NO_DROP,
    },
  ],
  compressor: [
    {
      td: [-FAR, -0.9],
      'over-ambient': [-3, -0.2],
      superheat: [-1.2, 2],
      subcooling: [-2, 0.8],
      'air-drop': [-FAR, -0.3],
      'drier-drop': NO_DROP,
    },
  ],
}

/** Of an orifice, which holds nothing: superheat shows what the charge and the air do. */
const FIXED: Record<Cause, Form[]> = {
  'all-right': VALVE['all-right'],
  'part-load': [{ ...VALVE['part-load'][0], superheat: [-FAR, 1.2] }],
  'head-held': VALVE['head-held'],
  heating: VALVE.heating,
  humid: VALVE.humid,
  'charge-low': [
    {
      td: [-1.2, 1],
      'over-ambient': [-1.5, 0.5],
      superheat: [0.2, FAR],
      subcooling: [-FAR, -0.8],
      'air-drop': [-1.6, 0.6],
      approach: [5, FAR],
    },
    {
      td: [-0.2, FAR],
      'over-ambient': [-3, 0.3],
      superheat: [1.8, FAR],
      subcooling: [-FAR, -1.4],
      'air-drop': [-FAR, 0.2],
    },
  ],
  'charge-high': [
    {
      td: [-1.2, 0.6],
      'over-ambient': [-0.4, 1.4],
      superheat: [-FAR, 0.2],
      subcooling: [1.4, 5],
      'air-drop': [-1, 1.5],
      approach: [-2, 5],
      'air-rise-share': [0.2, 0.6],
      standing: NO_AIR,
      'drier-drop': NO_DROP,
    },
    {
      td: [-2.5, 0.4],
      'over-ambient': [0.3, FAR],
      superheat: [-FAR, -0.8],
      subcooling: [3, FAR],
      'air-drop': [-1.5, 1.5],
      approach: [-2, 4],
      'air-rise-share': [0.1, 0.45],
      standing: NO_AIR,
      'drier-drop': NO_DROP,
    },
  ],
  air: [
    {
      td: [-FAR, 0.4],
      'over-ambient': [0.4, FAR],
      superheat: [-FAR, -0.4],
      subcooling: [0.8, FAR],
      'air-drop': [-FAR, 1.2],
      approach: [3, FAR],
      'air-rise-share': [0.12, 0.44],
      standing: [2.5, FAR],
      'drier-drop': NO_DROP,
    },
  ],
  condenser: [
    {
      td: [-2.5, 0.5],
      'over-ambient': [0.6, FAR],
      superheat: [-FAR, -0.2],
      subcooling: [-0.3, FAR],
      'air-drop': [-1.5, 1.2],
      approach: [5.5, FAR],
      'air-rise-share': [0.36, 1],
      standing: NO_AIR,
      'drier-drop': NO_DROP,
    },
  ],
  restriction: [{ ...VALVE.restriction[0], superheat: [1.4, FAR] }],
  'valve-starved': [{ ...VALVE['valve-starved'][0], superheat: [1.4, FAR] }],
  'valve-flooded': [{ ...VALVE['valve-flooded'][0], superheat: [-FAR, -1.2] }],
  'evaporator-air': [
    {
      td: [-0.8, FAR],
      'over-ambient': [-2, 0.5],
      superheat: [-FAR, -0.8],
      subcooling: [-3, 0.6],
      'air-drop': [0.9, FAR],
      'drier-drop': NO_DROP,
    },
  ],
  compressor: [
    {
      td: [-FAR, -0.9],
      'over-ambient': [-3, -0.2],
      superheat: [-FAR, 0.3],
      subcooling: [-3.5, 0.4],
      'air-drop': [-FAR, -0.2],
      'drier-drop': NO_DROP,
    },
  ],
}

/** Vehicles have two gauges and a vent. What lifts the head alike is not told apart by them. */
const VEHICLE: Partial<Record<Cause, Form[]>> = {
  'all-right': [
    {
      'low-gauge': [-1.1, 1.1],
      'over-ambient': [-1.1, 1.1],
      'vent-drop': [-1.1, FAR],
      subcooling: [-1.2, 1.2],
      standing: NO_AIR,
    },
  ],
  'charge-low': [
    {
      // A low-pressure switch stops it before it draws a vacuum.
      'low-gauge': [-2, -0.7],
      'over-ambient': [-FAR, -0.7],
      'vent-drop': [-FAR, -0.9],
      subcooling: [-FAR, -0.9],
    },
  ],
  'charge-high': [
    {
      'low-gauge': [0.2, FAR],
      'over-ambient': [0.9, FAR],
      'vent-drop': [-FAR, -0.3],
      subcooling: [1, FAR],
      standing: NO_AIR,
    },
  ],
  air: [
    {
      'low-gauge': [0.2, FAR],
      'over-ambient': [0.9, FAR],
      'vent-drop': [-FAR, -0.3],
      subcooling: [0.8, FAR],
      standing: [2.5, FAR],
    },
  ],
  condenser: [
    {
      'low-gauge': [0.2, FAR],
      'over-ambient': [0.9, FAR],
      'vent-drop': [-FAR, -0.3],
      'air-rise-share': [0.36, 1],
      standing: NO_AIR,
    },
  ],
  restriction: [
    {
      'low-gauge': [-FAR, -2.2],
      'over-ambient': [-FAR, -0.3],
      'vent-drop': [-FAR, -0.9],
      subcooling: [-0.5, FAR],
    },
  ],
  compressor: [{ 'low-gauge': [0.9, FAR], 'over-ambient': [-FAR, -0.9], 'vent-drop': [-FAR, -0.9] }],
  // A controlled compressor holds its low side, and moves less heat.
  'part-load': [
    {
      'low-gauge': [-0.6, 0.6],
      'over-ambient': [-2.5, 0.2],
      'vent-drop': [-1.8, FAR],
      subcooling: [-1.3, 1.3],
      standing: NO_AIR,
    },
  ],
}

/** A store's coil gets no room air, and is not turned round. */
const OF_COMFORT: readonly Cause[] = ['heating', 'humid']

/** The forms of each cause that a system of this service and metering device may have; a state that is denied has none. */
export function formsFor({
  service,
  metering,
  states = {},
}: Pick<ServiceFacts, 'service' | 'metering' | 'states'>): Partial<Record<Cause, Form[]>> {
  const all = ofDevice(service, metering)
  const may = (cause: Cause) =>
    !isState(cause) || (states[cause] !== false && (service === 'comfort' || !OF_COMFORT.includes(cause)))
  return Object.fromEntries(Object.entries(all).filter(([cause]) => may(cause as Cause)))
}

function ofDevice(service: Service, metering: Metering): Partial<Record<Cause, Form[]>> {
  if (service === 'vehicle') return VEHICLE
  if (metering === 'valve') return VALVE
  if (metering === 'fixed') return FIXED
  return Object.fromEntries(CAUSES.map((cause) => [cause, [...VALVE[cause], ...FIXED[cause]]]))
}
