import { type PlantParameters, TYPICAL } from './parameters'
import { type Controls, newPlant, type PlantState } from './state'
import { step } from './step'

export type Over = { [K in keyof PlantParameters]?: Partial<PlantParameters[K]> | PlantParameters[K] } & {
  system?: Partial<PlantParameters['system']>
  cylinder?: Partial<PlantParameters['cylinder']>
}

/** A typical plant with some of it changed. */
export function aPlant(over: Over = {}, controls: Partial<Controls> = {}) {
  const parameters = structuredClone(TYPICAL) as unknown as Record<string, unknown>
  for (const [key, value] of Object.entries(over))
    parameters[key] = typeof value === 'object' ? { ...(parameters[key] as object), ...value } : value
  const made = parameters as unknown as PlantParameters
  return { parameters: made, state: newPlant(made, controls) }
}

export const withHoses = (k: number) => ({ hose: { ...TYPICAL.hose, suctionK: k, dischargeK: k } })

/** Steps until something is so, or so long. */
export function until(
  { parameters, state }: ReturnType<typeof aPlant>,
  so: (state: PlantState) => boolean,
  mostS = 3_600,
  dt = 0.1,
): PlantState {
  const endS = state.seconds + mostS
  while (state.seconds < endS - 1e-9) {
    step(parameters, state, dt)
    if (so(state)) break
  }
  return state
}
