import { type PlantState, step } from '../plant'
import { type Action, plantOf, QUANTITIES, type Scenario } from './scenario'

/** Runs a scenario step by step: `seen` is called after the first step, at every interval, and after every action. */
export function play(scenario: Scenario, seen: (state: PlantState) => void): PlantState {
  const player = playerOf(scenario)
  const { state } = player
  let nextS = scenario.stepS
  for (;;) {
    const acted = player.advance()
    if (acted || state.seconds >= nextS - 1e-6) {
      seen(state)
      nextS = state.seconds + scenario.everyS
    }
    if (player.ended()) return state
  }
}

/** Where a player stands: enough to go on from, also in another process. */
export interface Standing {
  state: PlantState
  next: number
  lastS: number
  ended: boolean
}

/** A scenario under way: whoever holds it decides how fast time goes. */
export interface Player {
  state: PlantState
  standing(): Standing
  /** One step; true when somebody did something in it. */
  advance(): boolean
  ended(): boolean
}

/** @param from where it stood when it was left; undefined: from the start */
export function playerOf(scenario: Scenario, from?: Standing): Player {
  const state = from?.state ?? plantOf(scenario)
  let next = from?.next ?? 0
  let lastS = from?.lastS ?? 0
  let ended = from?.ended ?? false
  return {
    state,
    standing: () => ({ state, next, lastS, ended }),
    ended: () => ended || state.seconds >= scenario.untilS - 1e-6,
    advance: () => {
      let acted = false
      for (
        let action = scenario.actions[next];
        action && isDue(action, state, lastS);
        action = scenario.actions[next]
      ) {
        Object.assign(state.controls, action.set)
        if (action.stop) ended = true
        lastS = state.seconds
        next++
        acted = true
      }
      step(scenario.parameters, state, scenario.stepS)
      return acted
    },
  }
}

function isDue({ atS, afterS, when }: Action, state: PlantState, lastS: number): boolean {
  if (atS !== undefined) return state.seconds >= atS - 1e-6
  if (afterS !== undefined) return state.seconds - lastS >= afterS - 1e-6
  if (!when || state.seconds === 0) return false
  const value = QUANTITIES[when.quantity](state)
  return when.below !== undefined ? value < when.below : value > when.above!
}
