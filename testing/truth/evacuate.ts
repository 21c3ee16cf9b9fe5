// A vacuum and its hold.
import { between, chance, type Hand, idOf, mayOpen, vacuumPa } from './hand'
import { letGo, pass, pressures, ventNitrogen } from './world'

export function pump(hand: Hand): void {
  const { world } = hand
  if (!mayOpen(hand)) return
  ventNitrogen(world)
  Object.assign(world.plant.controls, { line: 'pump', pump: true, valve: 'vapour' })
  const toPa = between(hand, 20, 200)
  pass(world, 1_500, () => pressures(world).totalPa < toPa)
  hand.write('vacuum-noted', { pressurePa: vacuumPa(hand) })
  if (pressures(world).totalPa < 2_000) {
    hand.untold.nitrogen = false
    hand.untold.opening = false
  }
  world.plant.controls.pump = false
  world.plant.controls.valve = 'closed'
  if (chance(hand, 0.85)) hold(hand)
  letGo(world)
}

function hold(hand: Hand): void {
  const holdId = idOf('hold')
  hand.write('hold-started', { holdId, pressurePa: vacuumPa(hand) })
  const minutes = between(hand, 3, 20)
  for (let i = 0; i < 4; i++) {
    pass(hand.world, (minutes * 60) / 4)
    if (i < 3 && chance(hand, 0.6)) hand.write('vacuum-noted', { holdId, pressurePa: vacuumPa(hand) })
  }
  hand.write('hold-ended', { holdId, pressurePa: vacuumPa(hand) })
}
