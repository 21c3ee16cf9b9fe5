// Another gas for the same machine.
import { foldTape, isEmpty } from '#core/tape'
import { chance, type Hand, mayOpen, oneOf } from './hand'
import { changeGas, GASES } from './world'

export function retrofit(hand: Hand): void {
  const { world } = hand
  if (!mayOpen(hand) || world.shutIn || world.trade === 'vehicle') return
  const from = world.parameters.refrigerant
  const to = oneOf(
    hand,
    GASES.filter((each) => each !== from),
  )
  if (chance(hand, 0.5)) hand.write('retrofit-planned', {})
  // Only an empty circuit gets another gas; what of the old one is left in oil and corners counts as the new.
  if (!isEmpty(foldTape(hand.entries))) return
  changeGas(world, to, hand.dice)
  hand.write('gas-changed', {
    to,
    oilType: 'POE',
    reason: 'by lot',
    ...(chance(hand, 0.7) && { platePct: 100 }),
  })
}
