// With the gas out of it: searched, opened, mended, tested with nitrogen.
import { between, chance, gaugePa, type Hand, idOf, mayOpen, oneOf } from './hand'
import { fillTo, open, pass, ventNitrogen } from './world'

export function search(hand: Hand): void {
  const { system } = hand.world.parameters
  const found = system.holeM > 0 && chance(hand, 0.8)
  hand.write('leak-checked', {
    method: oneOf(hand, ['detector', 'bubbles', 'nitrogen'] as const),
    found,
    text: '',
  })
  if (found && chance(hand, 0.8) && mayOpen(hand)) repair(hand)
}

export function repair(hand: Hand): void {
  const { world } = hand
  openUp(hand)
  world.parameters.system.holeM = 0
  world.parameters.vacuum.leakPaS = 0
  hand.write('step-done', { step: 'repair-done' })
}

/** A joint, a drier, a part: with the gas out of it, as it should be. */
export function openUp(hand: Hand): void {
  if (!mayOpen(hand)) return
  open(hand.world)
  const told = !chance(hand, 0.1)
  if (!told) return void (hand.untold.opening = true)
  if (chance(hand, 0.5))
    hand.write('step-done', { step: oneOf(hand, ['repair-opened', 'repair-drier'] as const) })
  else
    hand.write('part-replaced', {
      part: oneOf(hand, ['drier', 'valve', 'compressor'] as const),
      number: '',
      text: '',
    })
}

export function nitrogen(hand: Hand): void {
  if (!mayOpen(hand)) return
  const { world } = hand
  const toPa = between(hand, 2e5, 25e5)
  fillTo(world, toPa)
  const how = hand.dice.even()
  if (how < 0.1) hand.untold.nitrogen = true
  else if (how < 0.6) hand.write('nitrogen-let-in', { pressurePa: gaugePa(hand) })
  else {
    const testId = idOf('test')
    const tempK = world.parameters.ambientK
    hand.write('pressure-test-started', { testId, part: 'whole', pressurePa: gaugePa(hand), tempK })
    pass(world, between(hand, 60, 900))
    hand.write('pressure-test-ended', { testId, pressurePa: gaugePa(hand), tempK })
  }
  if (chance(hand, 0.8)) ventNitrogen(world)
}
