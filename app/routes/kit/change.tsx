import Joi from 'joi'
import { data, redirect } from 'react-router'
import { changeKit, cylindersOfKind, inShop, kitPlaces, KitLabelTakenError, lockedKit, onePiece } from '#db'
import { found, idOf } from '~/base/form/ids.server'
import { checkForm, refuse, typedIn, version } from '~/base/form/read.server'
import { staleForm } from '~/base/form/stale'
import { KitForm } from '~/kit/form'
import { kitFields, kitProblems, readKit, untouched } from '~/kit/form.server'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { preferencesOf } from '~/base/session/preferences'
import { writer } from '~/base/session/signed-in.server'
import type { Route } from './+types/change'

export function meta() {
  return [{ title: 'Change kit · Keg' }]
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { shop, person } = writer(context)
  const reading = { units: preferencesOf(person.preferences).units }
  return inShop(shop.shopId, async (tx) => {
    const piece = found(await onePiece(tx, idOf(params.kitId)), 'kit')
    return {
      kind: piece.kind,
      label: piece.label,
      version: String(piece.version),
      start: kitFields(piece, reading),
      places: await kitPlaces(tx),
      tanks: await cylindersOfKind(tx, 'station'),
    }
  })
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const kitId = idOf(params.kitId)
  const typed = await typedIn(request)
  const reading = { units: preferencesOf(person.preferences).units }
  const opened = checkForm(typed, Joi.object<{ version: number }>({ version }))
  if (opened.refused) throw data('This page is out of date: reload it.', { status: 400 })
  try {
    const refused = await inShop(shop.shopId, async (tx) => {
      const before = found(await lockedKit(tx, kitId), 'kit')
      const read = readKit(typed, before.kind, reading)
      if (read.refused) return read.refused
      const stale =
        opened.value.version !== before.version &&
        staleForm(typed, kitFields(read.data, reading), kitFields(before, reading), before.version)
      if (stale) return stale
      const errors = await kitProblems(tx, read.data)
      if (Object.keys(errors).length > 0) return refuse(typed, errors)
      await changeKit(tx, kitId, untouched(before, read.data, reading))
      return undefined
    })
    if (refused) return data(refused, { status: 400 })
  } catch (error) {
    if (!(error instanceof KitLabelTakenError)) throw error
    return data(refuse(typed, { label: error.message }), { status: 400 })
  }
  return redirect(`/kit/${kitId}`)
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

export default function ChangeKit({ loaderData, actionData }: Route.ComponentProps) {
  const { kind, label, version, start, places, tanks } = loaderData
  return (
    <>
      <div className="page-head">
        <h1>Change {label}</h1>
      </div>
      <KitForm
        kind={kind}
        start={start}
        refused={actionData}
        places={places}
        tanks={tanks}
        isNew={false}
        hidden={{ version }}
      />
    </>
  )
}
