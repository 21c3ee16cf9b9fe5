// What goes in.
import { between, chance, type Hand, idOf, MG_PER_KG, noteWeight, oneOf, perhapsOther, putOn } from './hand'
import { hangOn, inSystemKg, letGo, pass, type VesselId } from './world'

export function aim(hand: Hand): void {
  const kg = hand.world.parameters.system.chargeKg
  hand.write('target-set', { massMg: Math.round(kg * MG_PER_KG), toleranceMg: 30_000, basis: 'expected' })
}

/** Into it: all that is missing, a little, or too much. */
export function charge(hand: Hand, kg: number): void {
  const { world } = hand
  const { plant } = world
  const from: VesselId = world.vessels.B.cylinder.kg > 0.5 ? 'B' : 'A'
  const { cylinderId } = world.vessels[from]
  if (!chance(hand, 0.1)) hand.write('cylinder-chosen', { cylinderId, use: 'charge', massMg: null })
  hangOn(world, from)
  const runId = idOf('charge')
  let weighing = putOn(hand, oneOf(hand, world.scales))
  hand.write('run-started', { runId, use: 'charge', cylinderId, weightMg: weighing.read(), ...weighing.as })
  const before = inSystemKg(world)
  Object.assign(plant.controls, { line: 'cylinder', valve: 'liquid' })
  const inIt = () => inSystemKg(world) - before >= kg
  for (let i = 0; i < 3 && !inIt(); i++) {
    pass(world, 200, inIt)
    if (i < 2) weighing = perhapsOther(hand, runId, weighing)
    if (i < 2 && chance(hand, 0.5)) noteWeight(hand, 'weight-noted', { runId, weightMg: weighing.read() })
  }
  plant.controls.valve = 'closed'
  const hoseMg = Math.round(plant.hoseKg * MG_PER_KG * between(hand, 0.8, 1.2))
  hand.doubtKg += 0.25 * plant.hoseKg
  noteWeight(hand, 'run-ended', { runId, weightMg: weighing.read(), hoseMg })
  letGo(world)
}
