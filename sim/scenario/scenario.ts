import { REFRIGERANTS } from '#core/refrigerants'
import { type Controls, newPlant, type PlantParameters, type PlantState, STEP_S, TYPICAL } from '../plant'

/** A quantity that an action can wait for: names of the columns that `./keg rig` prints. */
export const QUANTITIES = {
  p_sys_Pa: ({ seen }: PlantState) => seen.systemPa,
  p_suction_Pa: ({ seen }: PlantState) => seen.suctionPa,
  m_cyl_kg: ({ cylinder }: PlantState) => cylinder.kg,
  mdot_port_kg_s: ({ seen }: PlantState) => seen.portKgS,
  T_cyl_K: ({ cylinder }: PlantState) => cylinder.tempK,
} as const
export type Quantity = keyof typeof QUANTITIES

/** What somebody does, in this order; each waits for its time, for a while after the one before, or for a reading. */
export interface Action {
  atS?: number
  afterS?: number
  when?: { quantity: Quantity; below?: number; above?: number }
  set: Partial<Controls>
  /** Ends the run. */
  stop?: boolean
}

/** A course of work on a plant, as its file says. */
export interface Scenario {
  name: string
  about: string
  parameters: PlantParameters
  controls: Partial<Controls>
  actions: Action[]
  /** Seconds: of a step, between two lines, and at most in all. */
  stepS: number
  everyS: number
  untilS: number
  columns: 'recovery' | 'vacuum' | 'running'
}

/** A scenario's file says something that cannot be run; the text says where and what to write. */
export class ScenarioError extends Error {
  override name = 'ScenarioError'
}

type Json = Record<string, unknown>

const CONTROLS: Record<keyof Controls, readonly unknown[] | 'boolean' | 'number'> = {
  line: ['none', 'machine', 'pump', 'cylinder'],
  valve: ['closed', 'vapour', 'liquid'],
  machine: ['off', 'run', 'purge'],
  cylinderOpen: 'boolean',
  pump: 'boolean',
  fan: 'boolean',
  coreIn: 'boolean',
  compressor: 'boolean',
  ice: 'boolean',
  sun: 'boolean',
  bathK: 'number',
}

/** @throws ScenarioError where a name is unknown or a value cannot be */
export function readScenario(json: unknown): Scenario {
  const from = object(json, 'the scenario')
  known(
    from,
    ['name', 'about', 'parameters', 'controls', 'actions', 'stepS', 'everyS', 'untilS', 'columns'],
    'the scenario',
  )
  const parameters = merged(TYPICAL, from.parameters ?? {}, 'parameters') as unknown as PlantParameters
  if (!REFRIGERANTS.includes(parameters.refrigerant))
    throw new ScenarioError(
      `parameters.refrigerant: "${parameters.refrigerant}" is not known. Write it like R-410A.`,
    )
  const columns = from.columns ?? 'recovery'
  if (columns !== 'recovery' && columns !== 'vacuum' && columns !== 'running')
    throw new ScenarioError('columns: choose recovery, vacuum or running.')
  return {
    name: text(from.name, 'name'),
    about: text(from.about ?? '', 'about'),
    parameters,
    controls: controls(from.controls ?? {}, 'controls'),
    actions: list(from.actions ?? [], 'actions').map((each, i) => action(each, `actions[${i}]`)),
    stepS: number(from.stepS ?? STEP_S, 'stepS', 0.01, 1),
    everyS: number(from.everyS ?? 5, 'everyS', 0.01, 86_400),
    untilS: number(from.untilS ?? 3_600, 'untilS', 0.01, 30 * 86_400),
    columns,
  }
}

/** What somebody asks of a plant that runs. @throws ScenarioError where it cannot be set so */
export const mayControl = (json: unknown): Partial<Controls> => controls(json, 'set')

export const plantOf = ({ parameters, controls }: Scenario): PlantState => newPlant(parameters, controls)

function action(json: unknown, where: string): Action {
  const from = object(json, where)
  known(from, ['atS', 'afterS', 'when', 'set', 'stop'], where)
  const waits = [from.atS, from.afterS, from.when].filter((each) => each !== undefined)
  if (waits.length !== 1)
    throw new ScenarioError(`${where}: say when it happens by one of atS, afterS and when.`)
  return {
    ...(from.atS !== undefined && { atS: number(from.atS, `${where}.atS`, 0, 30 * 86_400) }),
    ...(from.afterS !== undefined && { afterS: number(from.afterS, `${where}.afterS`, 0, 30 * 86_400) }),
    ...(from.when !== undefined && { when: condition(from.when, `${where}.when`) }),
    set: controls(from.set ?? {}, `${where}.set`),
    ...(from.stop === true && { stop: true }),
  }
}

function condition(json: unknown, where: string): NonNullable<Action['when']> {
  const from = object(json, where)
  known(from, ['quantity', 'below', 'above'], where)
  const { quantity } = from
  if (typeof quantity !== 'string' || !Object.hasOwn(QUANTITIES, quantity))
    throw new ScenarioError(`${where}.quantity: choose one of ${Object.keys(QUANTITIES).join(', ')}.`)
  if ((from.below === undefined) === (from.above === undefined))
    throw new ScenarioError(`${where}: say either below or above.`)
  return {
    quantity: quantity as Quantity,
    ...(from.below !== undefined && { below: number(from.below, `${where}.below`) }),
    ...(from.above !== undefined && { above: number(from.above, `${where}.above`) }),
  }
}

function controls(json: unknown, where: string): Partial<Controls> {
  const from = object(json, where)
  known(from, Object.keys(CONTROLS), where)
  for (const [key, value] of Object.entries(from)) {
    const may = CONTROLS[key as keyof Controls]
    const fits = typeof may === 'string' ? typeof value === may : may.includes(value)
    // A bath can be taken away again.
    if (!fits && !(key === 'bathK' && value === null))
      throw new ScenarioError(
        `${where}.${key}: ${typeof may === 'string' ? `write a ${may}` : `choose one of ${may.join(', ')}`}.`,
      )
  }
  return Object.fromEntries(Object.entries(from).map(([key, value]) => [key, value ?? undefined]))
}

/** What is given laid over what is typical; a name that is not there is a mistake, not a wish. */
function merged(typical: object, given: unknown, where: string): Json {
  const from = object(given, where)
  known(from, [...Object.keys(typical), ...(where === 'parameters.cylinder' ? ['tempK'] : [])], where)
  const result: Json = { ...typical }
  for (const [key, value] of Object.entries(from)) {
    const usual = (typical as Json)[key]
    const at = `${where}.${key}`
    if (typeof usual === 'object' && usual !== null) result[key] = merged(usual, value, at)
    else if (typeof usual === 'string') result[key] = text(value, at)
    else result[key] = number(value, at, -1e9, 1e9)
  }
  return result
}

function object(json: unknown, where: string): Json {
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new ScenarioError(`${where}: write an object, { … }.`)
  return json as Json
}

function list(json: unknown, where: string): unknown[] {
  if (!Array.isArray(json)) throw new ScenarioError(`${where}: write a list, [ … ].`)
  return json
}

function known(from: Json, names: readonly string[], where: string): void {
  const strange = Object.keys(from).find((key) => !names.includes(key))
  if (strange !== undefined)
    throw new ScenarioError(`${where}: "${strange}" is not known here. Known are ${names.join(', ')}.`)
}

function text(value: unknown, where: string): string {
  if (typeof value !== 'string') throw new ScenarioError(`${where}: write a text.`)
  return value
}

function number(value: unknown, where: string, least = -Infinity, most = Infinity): number {
  if (typeof value !== 'number' || !Number.isFinite(value) || value < least || value > most)
    throw new ScenarioError(
      `${where}: write a number${Number.isFinite(least) ? ` from ${least} to ${most}` : ''}.`,
    )
  return value
}
