import Joi from 'joi'
import { data, redirect } from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import {
  changeCylinder,
  customers,
  type CylinderData,
  cylinderOf,
  inShop,
  LabelTakenError,
  lockedCylinder,
} from '#db'
import { CylinderForm } from '~/cylinders/form'
import { cylinderFields, cylinderFrom, hasOddStamps, noBetterThan } from '~/cylinders/fields'
import { cylinderProblems } from '~/cylinders/problems.server'
import { found, idOf } from '~/base/form/ids.server'
import { checkForm, refuse, typedIn, version } from '~/base/form/read.server'
import { staleForm } from '~/base/form/stale'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { todayIn } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { writer } from '~/base/session/signed-in.server'
import { CONDITION_WORDS, CYLINDER_KIND_WORDS } from '~/words/en'
import type { Route } from './+types/change'

export function meta() {
  return [{ title: 'Change a cylinder · Keg' }]
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { shop, person } = writer(context)
  const reading = { units: preferencesOf(person.preferences).units }
  return inShop(shop.shopId, async (tx) => {
    const c = found(await cylinderOf(tx, idOf(params.cylinderId)), 'cylinder')
    return {
      label: c.label,
      conditions: noBetterThan(c.condition),
      refrigerants: REFRIGERANTS,
      customers: await customers(tx),
      version: String(c.version),
      start: { ...cylinderFields(c, reading), stampChecked: hasOddStamps(c) ? 'on' : '' },
    }
  })
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const cylinderId = idOf(params.cylinderId)
  const reading = { units: preferencesOf(person.preferences).units }
  const read = cylinderFrom(await typedIn(request), reading, todayIn(shop.timeZone), shop.fillMarginPct)
  if (read.refused) return data(read.refused, { status: 400 })
  const opened = checkForm(read.typed, Joi.object<{ version: number }>({ version }))
  if (opened.refused) throw data('This page is out of date: reload it.', { status: 400 })
  try {
    const refused = await inShop(shop.shopId, async (tx) => {
      const before = found(await lockedCylinder(tx, cylinderId), 'cylinder')
      const mine = cylinderFields(read.data, reading)
      const names = new Map((await customers(tx)).map((c) => [c.customerId, c.name]))
      const stale =
        opened.value.version !== before.version &&
        staleForm(read.typed, mine, cylinderFields(before, reading), before.version, (name, value) =>
          inWords(name, value, names),
        )
      if (stale) return stale
      const errors = await cylinderProblems(tx, before, read.data)
      if (Object.keys(errors).length > 0) return refuse(read.typed, errors)
      // What was not touched keeps its exact value: a field shows a rounded one.
      const was = cylinderFields(before, reading)
      const same = (name: string) => was[name] === mine[name]
      await changeCylinder(tx, cylinderId, {
        ...read.data,
        ...(same('tare') ? { tareMg: before.tareMg } : {}),
        ...(same('waterCapacity') ? { waterCapacityMg: before.waterCapacityMg } : {}),
        ...(same('servicePressure') ? { servicePressurePa: before.servicePressurePa } : {}),
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

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

function inWords(name: string, value: string, customers: Map<string, string>): string {
  if (name === 'ownerCustomerId') return value ? (customers.get(value) ?? 'a customer') : "the shop's own"
  if (name === 'condition') return CONDITION_WORDS[value as CylinderData['condition']]
  if (name === 'kind') return CYLINDER_KIND_WORDS[value as CylinderData['kind']]
  if (name === 'flammableOk') return value ? 'fit for flammables' : 'not fit for flammables'
  return value
}

export default function ChangeCylinder({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <>
      <div className="page-head">
        <h1>Change {loaderData.label}</h1>
      </div>
      <CylinderForm
        start={loaderData.start}
        refused={actionData}
        refrigerants={loaderData.refrigerants}
        customers={loaderData.customers}
        conditions={loaderData.conditions}
        isNew={false}
        hidden={{ version: loaderData.version }}
      />
    </>
  )
}
