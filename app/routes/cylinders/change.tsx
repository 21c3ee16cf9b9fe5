import { data, redirect } from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import { changeCylinder, customers, cylinderOf, inShop, LabelTakenError, movements } from '#db'
import { CylinderForm } from '~/cylinders/form'
import { readCylinder } from '~/cylinders/form.server'
import { found, idOf } from '~/form/ids.server'
import { preferencesOf } from '~/session/preferences'
import { writer } from '~/session/signed-in.server'
import { typed } from '~/ui/measure'
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
      refrigerants: REFRIGERANTS,
      customers: await customers(tx),
      start: {
        label: c.label,
        kind: c.kind,
        refrigerant: c.refrigerant ?? '',
        condition: c.condition,
        tare: typed('weight', c.tareMg, reading),
        waterCapacity: typed('weight', c.waterCapacityMg, reading),
        stampChecked: 'on',
        servicePressure: typed('pressure', c.servicePressurePa, reading),
        fillingRatio: c.fillingRatio === null ? '' : String(c.fillingRatio),
        testedOn: c.testedOn ?? '',
        testYears: String(c.testYears),
        flammableOk: c.flammableOk ? 'on' : '',
        ownerCustomerId: c.ownerCustomerId ?? '',
        keepsAt: c.keepsAt,
      },
    }
  })
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const cylinderId = idOf(params.cylinderId)
  const reading = { units: preferencesOf(person.preferences).units }
  const copy = await (request.clone() as Request).formData()
  const read = await readCylinder(request, reading)
  if (read.refused) return data(read.refused, { status: 400 })
  const refused = (errors: Record<string, string>) =>
    data({ errors, typed: Object.fromEntries([...copy].map(([k, v]) => [k, String(v)])) }, { status: 400 })
  try {
    const problem = await inShop(shop.shopId, async (tx) => {
      const before = found(await cylinderOf(tx, cylinderId), 'cylinder')
      const other = before.refrigerant !== null && read.data.refrigerant !== before.refrigerant
      // Only where nothing was ever booked was it merely typed wrongly.
      if (other && (await movements(tx, { cylinderId }, 1)).length > 0)
        return {
          refrigerant: `It has held ${before.refrigerant}: ship what is in it, evacuate it, then book it as free for another gas.`,
        }
      // What was not touched keeps its exact value: a field shows a rounded one.
      await changeCylinder(tx, cylinderId, {
        ...read.data,
        tareMg: kept('weight', before.tareMg, read.data.tareMg),
        waterCapacityMg: keptOrNone('weight', before.waterCapacityMg, read.data.waterCapacityMg),
        servicePressurePa: keptOrNone('pressure', before.servicePressurePa, read.data.servicePressurePa),
      })
      return undefined
    })
    if (problem) return refused(problem)
  } catch (error) {
    if (!(error instanceof LabelTakenError)) throw error
    return refused({ label: error.message })
  }
  return redirect(`/cylinders/${cylinderId}`)

  function kept(kind: 'weight' | 'pressure', before: number, after: number): number {
    return typed(kind, before, reading) === typed(kind, after, reading) ? before : after
  }
  function keptOrNone(
    kind: 'weight' | 'pressure',
    before: number | null,
    after: number | null,
  ): number | null {
    return before === null || after === null ? after : kept(kind, before, after)
  }
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
        isNew={false}
      />
    </>
  )
}
