import { data, redirect } from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import { BORE_M } from '#core/systems'
import { changeSystem, customers, inShop, sites, systemOf } from '#db'
import { found, idOf } from '~/form/ids.server'
import { now } from '~/session/clock.server'
import { preferencesOf } from '~/session/preferences'
import { writer } from '~/session/signed-in.server'
import { SystemForm } from '~/systems/form'
import { placeOf, readSystem } from '~/systems/form.server'
import { typed } from '~/ui/measure'
import type { Route } from './+types/change'

export function meta() {
  return [{ title: 'Change a system · Keg' }]
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { shop, person } = writer(context)
  const reading = { units: preferencesOf(person.preferences).units }
  return inShop(shop.shopId, async (tx) => {
    const s = found(await systemOf(tx, idOf(params.systemId)), 'system')
    return {
      name: s.name,
      refrigerants: REFRIGERANTS,
      pipes: Object.keys(BORE_M),
      customers: (await customers(tx)).map((c) => c.name),
      sites: [...new Set((await sites(tx)).map((site) => site.name))],
      start: {
        name: s.name,
        customer: s.customer,
        site: s.site,
        altitude: String(s.altitudeM),
        trade: s.trade,
        refrigerant: s.refrigerant ?? '',
        plate: typed('weight', s.plateMg, reading),
        plateText: s.plateText,
        panelTotal: typed('weight', s.panelTotalMg, reading),
        metering: s.metering,
        subcooling: s.subcoolingTargetK === null ? '' : String(s.subcoolingTargetK),
        oilType: s.oilType,
        maxTestPressure: typed('pressure', s.maxTestPressurePa, reading),
        lines: JSON.stringify(
          s.lines.map((l) => ({
            kind: l.kind,
            od: l.od,
            length: typed('length', l.lengthM, reading),
            covered: typed('length', l.coveredM, reading),
            guessed: l.guessed,
          })),
        ),
        accessories: JSON.stringify(
          s.accessories.map((a) => ({ name: a.name, mass: typed('weight', a.massMg, reading) })),
        ),
      },
    }
  })
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const systemId = idOf(params.systemId)
  const reading = { units: preferencesOf(person.preferences).units }
  const read = await readSystem(request, reading)
  if (read.refused) return data(read.refused, { status: 400 })
  await inShop(shop.shopId, async (tx) => {
    const before = found(await systemOf(tx, systemId), 'system')
    const siteId = await placeOf(tx, read.value, now())
    const { plateMg } = read.value.data
    // What was not touched keeps its exact value: a field shows a rounded one.
    const samePlate = typed('weight', before.plateMg, reading) === typed('weight', plateMg, reading)
    await changeSystem(tx, systemId, {
      ...read.value.data,
      siteId,
      plateMg: samePlate ? before.plateMg : plateMg,
    })
  })
  return redirect(`/systems/${systemId}`)
}

export default function ChangeSystem({ loaderData, actionData }: Route.ComponentProps) {
  const { name, ...form } = loaderData
  return (
    <>
      <div className="page-head">
        <h1>Change {name}</h1>
      </div>
      <SystemForm {...form} refused={actionData} isNew={false} />
    </>
  )
}
