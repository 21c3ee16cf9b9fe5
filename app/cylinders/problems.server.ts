import { type CylinderData, type CylinderRow, isCustomer, movements, type ShopTx } from '#db'
import { CONDITION_WORDS, inSentence } from '~/words/en'
import { noBetterThan } from './fields'

/** What the books or others' marks do not allow. */
export async function cylinderProblems(
  tx: ShopTx,
  before: CylinderRow,
  after: CylinderData,
): Promise<Record<string, string>> {
  const errors: Record<string, string> = {}
  // Only where nothing was ever booked was it merely typed wrongly.
  if (
    before.refrigerant !== null &&
    after.refrigerant !== before.refrigerant &&
    (await movements(tx, { cylinderId: before.cylinderId }, 1)).length > 0
  )
    errors.refrigerant = `It has held ${before.refrigerant}: ship what is in it, evacuate it, then book it as free for another gas.`
  if (!noBetterThan(before.condition).includes(after.condition))
    errors.condition = `It is marked ${inSentence(CONDITION_WORDS[before.condition])}. To mark it better, use “Judge what it holds” on its page, with the reason.`
  if (after.ownerCustomerId && !(await isCustomer(tx, after.ownerCustomerId)))
    errors.ownerCustomerId = 'Choose whose gas it is from the list again.'
  return errors
}
