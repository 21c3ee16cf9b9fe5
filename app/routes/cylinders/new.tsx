import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { data, redirect } from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import { addCylinder, bookArrival, customers, inShop, isCustomer, LabelTakenError } from '#db'
import { CylinderForm } from '~/cylinders/form'
import { cylinderFrom } from '~/cylinders/fields'
import { checkForm, id, refuse, typedIn } from '~/base/form/read.server'
import { openPage } from '~/device/page/page'
import { typedOf } from '~/base/form/check'
import { sendForm } from '~/device/page/send-form'
import { now, todayIn } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { writer } from '~/base/session/signed-in.server'
import type { NewCylinderData } from '~/pages/cylinders/cylinder-data'
import type { Route } from './+types/new'

export function meta() {
  return [{ title: 'Add a cylinder · Keg' }]
}

export async function loader({ context }: Route.LoaderArgs) {
  const { shop } = writer(context)
  return {
    cylinderId: randomUUID(),
    voucherId: randomUUID(),
    refrigerants: REFRIGERANTS,
    customers: await inShop(shop.shopId, customers),
  } satisfies NewCylinderData
}

export const clientLoader = openPage<NewCylinderData>(() =>
  import('~/pages/cylinders/from-device').then((each) => each.newCylinder),
)

export async function action({ request, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const reading = { units: preferencesOf(person.preferences).units }
  const read = cylinderFrom(await typedIn(request), reading, todayIn(shop.timeZone), shop.fillMarginPct)
  if (read.refused) return data(read.refused, { status: 400 })
  const made = checkForm(
    read.typed,
    Joi.object<{ cylinderId: string; voucherId: string }>({ cylinderId: id, voucherId: id }),
  )
  if (made.refused) throw data('This page is out of date: reload it.', { status: 400 })
  const { cylinderId, voucherId } = made.value
  try {
    const refused = await inShop(shop.shopId, async (tx) => {
      const owner = read.data.ownerCustomerId
      if (owner && !(await isCustomer(tx, owner)))
        return refuse(read.typed, { ownerCustomerId: 'Choose whose gas it is from the list again.' })
      await addCylinder(tx, cylinderId, read.data, now())
      if (read.contentsMg > 0)
        await bookArrival(tx, {
          kind: 'opening',
          voucherId,
          cylinderId,
          massMg: read.contentsMg,
          at: now(),
          now: now(),
          userId: person.userId,
          text: '',
        })
      return undefined
    })
    if (refused) return data(refused, { status: 400 })
  } catch (error) {
    if (!(error instanceof LabelTakenError)) throw error
    return data(refuse(read.typed, { label: error.message }), { status: 400 })
  }
  return redirect(`/cylinders/${cylinderId}`)
}

/** Without signal it is made on this device. */
export async function clientAction({ request, serverAction }: Route.ClientActionArgs) {
  const typed = typedOf(await request.clone().formData())
  return sendForm({ serverAction }, async () => {
    const { makeCylinder } = await import('~/device/page/make')
    const made = await makeCylinder(typed)
    return 'id' in made ? redirect(`/cylinders/${made.id}`) : made
  })
}

const START = { kind: 'recovery', condition: 'clean', testYears: '5' }

export default function NewCylinder({ loaderData, actionData }: Route.ComponentProps) {
  const { cylinderId, voucherId, refrigerants, customers } = loaderData
  return (
    <>
      <div className="page-head">
        <h1>Add a cylinder</h1>
      </div>
      <CylinderForm
        start={START}
        refused={actionData}
        refrigerants={refrigerants}
        customers={customers}
        conditions={['clean', 'used', 'doubtful', 'mixed']}
        isNew
        hidden={{ cylinderId, voucherId }}
      />
    </>
  )
}
