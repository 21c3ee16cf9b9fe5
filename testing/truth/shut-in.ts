// Pumped down: the charge waits behind the valves of the outdoor unit while the rest of the circuit is open.
import { chance, gaugePa, type Hand, idOf } from './hand'
import { later, openValves, pressures, shutValves } from './world'

export function pumpDown(hand: Hand): void {
  const { world } = hand
  shutValves(world)
  if (chance(hand, 0.7)) {
    hand.write('pressure-noted', { point: 'low', pressurePa: gaugePa(hand) })
    hand.write('watch-started', { watchId: idOf('watch'), what: 'pull', forS: 600 })
    later(world, 11)
    hand.write('pressure-noted', { point: 'low', pressurePa: gaugePa(hand) })
  }
  hand.write('recovery-ended', { how: 'shut-in' })
}

/** Mostly once the rest is evacuated; forgotten on the tape now and then. */
export function letBack(hand: Hand): void {
  const { world } = hand
  if (!world.shutIn || pressures(world).totalPa > 2_000) return
  openValves(world)
  if (chance(hand, 0.9)) hand.write('step-done', { step: 'valves-opened' })
  else hand.untold.valves = true
}
