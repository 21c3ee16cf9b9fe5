import { inShop, passwordHashOf, people, type SignedIn } from '#db'
import { passwordFits } from './password.server'
import { overLimit } from './rate.server'

/** Who may put a name under what a trainee has done. */
export async function countersigners(shopId: string): Promise<{ userId: string; name: string }[]> {
  const all = await inShop(shopId, (tx) => people(tx))
  return all
    .filter((each) => each.role !== 'trainee' && !each.disabled)
    .map(({ userId, name }) => ({ userId, name }))
}

/**
 * Whose name stands under an act: one's own, or for a trainee that of a technician who types the password beside it.
 * @returns the person, or by field what is missing
 */
export async function signedFor(
  { shop, person }: SignedIn,
  typed: Readonly<Record<string, string | undefined>>,
): Promise<{ userId: string; remark: string } | { errors: Record<string, string> }> {
  if (person.role !== 'trainee') return { userId: person.userId, remark: '' }
  const signer = (await countersigners(shop.shopId)).find((each) => each.userId === typed.countersigner)
  if (!signer) return { errors: { countersigner: 'Choose who countersigns it: a technician who looked on.' } }
  const wait = await overLimit('SIGN_IN', `countersign of ${signer.userId}`)
  if (wait) return { errors: { countersignPassword: wait } }
  const hash = await inShop(shop.shopId, (tx) => passwordHashOf(tx, signer.userId))
  if (!(await passwordFits(typed.countersignPassword ?? '', hash)))
    return { errors: { countersignPassword: `This is not the password of ${signer.name}: type it again.` } }
  return { userId: signer.userId, remark: `Done by ${person.name}, countersigned. ` }
}
