// What comes out, into which cylinder, and what is said of its end.
import type { RecoveryEndKind } from '#core/recovery'
import {
  between,
  chance,
  gaugePa,
  type Hand,
  idOf,
  levelPa,
  MG_PER_KG,
  noteWeight,
  oneOf,
  perhapsOther,
  putOn,
} from './hand'
import { hangOn, inSystemKg, letGo, pass, pressures, type VesselId } from './world'

/** Out of it into a cylinder: all of it, down to what is asked, or a part. */
export function pull(hand: Hand, into: VesselId, share: number): void {
  const { world } = hand
  const { plant } = world
  hangOn(world, into)
  const { cylinderId } = world.vessels[into]
  if (!chance(hand, 0.1)) hand.write('cylinder-chosen', { cylinderId, use: 'recover', massMg: null })
  const runId = idOf('pull')
  const atFirst = inSystemKg(world)
  const level = levelPa(hand)
  let weighing = putOn(hand, oneOf(hand, world.scales))
  hand.write('run-started', { runId, use: 'recover', cylinderId, weightMg: weighing.read(), ...weighing.as })
  Object.assign(plant.controls, { line: 'machine', machine: 'run', valve: 'liquid', fan: true })
  Object.assign(plant.machine, { cutOut: false, stoppedItself: false })
  const down = () =>
    share < 1 ? inSystemKg(world) <= atFirst * (1 - share) : pressures(world).totalPa < level - 5_000
  for (let i = 0; i < 3 && !down(); i++) {
    pass(world, 600, down)
    if (i < 2) weighing = perhapsOther(hand, runId, weighing)
    if (i < 2 && chance(hand, 0.5)) noteWeight(hand, 'weight-noted', { runId, weightMg: weighing.read() })
  }
  plant.controls.valve = 'closed'
  const purges = chance(hand, 0.8)
  if (purges) {
    plant.controls.machine = 'purge'
    pass(world, 120)
  }
  // Stays in the machine, in no cylinder: half of it is a guess, or it was not said.
  const keptKg = plant.machine.holdupKg
  hand.doubtKg += keptKg
  noteWeight(hand, 'run-ended', { runId, weightMg: weighing.read() })
  if (!purges && keptKg > 0.005 && chance(hand, 0.7))
    hand.write('rig-kept', {
      kitId: 'machine',
      massMg: Math.round(keptKg * MG_PER_KG * between(hand, 0.7, 1.3)),
    })
  plant.lostKg += keptKg
  plant.machine.holdupKg = 0
  letGo(world)
}

/** How the pull ended, as it is said: mostly as it is. */
export function sayEnd(hand: Hand): void {
  const { totalPa } = pressures(hand.world)
  const level = levelPa(hand)
  const down = totalPa < level + 10_000
  if (chance(hand, 0.5)) hand.write('pressure-noted', { point: 'low', pressurePa: gaugePa(hand) })
  if (chance(hand, 0.15)) return
  const truth: RecoveryEndKind = down ? 'emptied' : 'not-emptied'
  const said = chance(hand, 0.06) ? (down ? 'not-emptied' : 'emptied') : truth
  if (said === 'emptied' && !down) hand.untold.gas = true
  hand.write('recovery-ended', { how: said, ...(chance(hand, 0.7) && { levelPa: level }) })
}

/** Found gone, and said so, or not. */
export function foundGone(hand: Hand): void {
  if (inSystemKg(hand.world) > 0.1) return
  if (chance(hand, 0.6)) hand.write('pressure-noted', { point: 'low', pressurePa: gaugePa(hand) })
  if (chance(hand, 0.6)) hand.write('recovery-ended', { how: oneOf(hand, ['lost', 'elsewhere'] as const) })
}
