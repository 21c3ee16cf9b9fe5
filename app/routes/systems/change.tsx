import Joi from 'joi'
import { data, redirect } from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import { BORE_M } from '#core/systems'
import { changeSystem, customers, inShop, lockedSystem, sites, systemOf } from '#db'
import { found, idOf } from '~/base/form/ids.server'
import { checkForm, typedIn, version } from '~/base/form/read.server'
import { staleForm } from '~/base/form/stale'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { now } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { writer } from '~/base/session/signed-in.server'
import { SystemForm } from '~/systems/form'
import { systemFields, systemFrom, type TypedAccessory, type TypedLine } from '~/systems/fields'
import { placeOf } from '~/systems/place.server'
import { METERING_WORDS, TRADE_WORDS } from '~/words/en'
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
      hidden: { version: String(s.version) },
      start: systemFields(s, reading),
    }
  })
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const systemId = idOf(params.systemId)
  const reading = { units: preferencesOf(person.preferences).units }
  const read = systemFrom(await typedIn(request), reading)
  if (read.refused) return data(read.refused, { status: 400 })
  const opened = checkForm(read.typed, Joi.object<{ version: number }>({ version }))
  if (opened.refused) throw data('This page is out of date: reload it.', { status: 400 })
  const refused = await inShop(shop.shopId, async (tx) => {
    const before = found(await lockedSystem(tx, systemId), 'system')
    const was = systemFields(before, reading)
    const mine = systemFields({ ...read.value.data, ...read.value }, reading)
    const stale =
      opened.value.version !== before.version && staleForm(read.typed, mine, was, before.version, inWords)
    if (stale) return stale
    const siteId = await placeOf(tx, read.value, now())
    // What was not touched keeps its exact value: a field shows a rounded one.
    const same = (name: string) => was[name] === mine[name]
    await changeSystem(tx, systemId, {
      ...read.value.data,
      siteId,
      ...(same('plate') ? { plateMg: before.plateMg } : {}),
      ...(same('panelTotal') ? { panelTotalMg: before.panelTotalMg } : {}),
      ...(same('maxTestPressure') ? { maxTestPressurePa: before.maxTestPressurePa } : {}),
      ...(same('lines') ? { lines: before.lines } : {}),
      ...(same('accessories') ? { accessories: before.accessories } : {}),
    })
    return undefined
  })
  if (refused) return data(refused, { status: 400 })
  return redirect(`/systems/${systemId}`)
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

function inWords(name: string, value: string): string {
  if (name === 'lines')
    return (JSON.parse(value) as TypedLine[]).map((l) => `${l.kind} ${l.od} in, ${l.length}`).join('; ')
  if (name === 'accessories')
    return (JSON.parse(value) as TypedAccessory[]).map((a) => `${a.name}, ${a.mass}`).join('; ')
  if (name === 'metering') return METERING_WORDS[value as keyof typeof METERING_WORDS]
  if (name === 'trade') return TRADE_WORDS[value as keyof typeof TRADE_WORDS]
  return value
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
