import { randomUUID } from 'node:crypto'
import { data, redirect } from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import { addCylinder, bookArrival, customers, inShop, LabelTakenError } from '#db'
import { CylinderForm } from '~/cylinders/form'
import { readCylinder } from '~/cylinders/form.server'
import { idOf } from '~/form/ids.server'
import { now } from '~/session/clock.server'
import { preferencesOf } from '~/session/preferences'
import { writer } from '~/session/signed-in.server'
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
  }
}

export async function action({ request, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const copy = await (request.clone() as Request).formData()
  const read = await readCylinder(request, { units: preferencesOf(person.preferences).units })
  if (read.refused) return data(read.refused, { status: 400 })
  const cylinderId = idOf(String(copy.get('cylinderId')))
  const voucherId = idOf(String(copy.get('voucherId')))
  try {
    await inShop(shop.shopId, async (tx) => {
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
    })
  } catch (error) {
    if (!(error instanceof LabelTakenError)) throw error
    const typed = Object.fromEntries([...copy].map(([k, v]) => [k, String(v)]))
    return data({ errors: { label: error.message }, typed } satisfies Record<string, unknown>, {
      status: 400,
    })
  }
  return redirect(`/cylinders/${cylinderId}`)
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
        refused={actionData as never}
        refrigerants={refrigerants}
        customers={customers}
        isNew
        hidden={{ cylinderId, voucherId }}
      />
    </>
  )
}
