import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { data, Link, redirect } from 'react-router'
import { KIT_KINDS } from '#core/kit'
import { addKit, cylindersOfKind, inShop, kitPlaces, KitLabelTakenError } from '#db'
import { checkForm, id, ownText, refuse, typedIn } from '~/base/form/read.server'
import { KitForm } from '~/kit/form'
import { kitProblems, readKit } from '~/kit/form.server'
import { KitIcon } from '~/kit/icon'
import { kindOf } from '~/kit/schema'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { now } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { writer } from '~/base/session/signed-in.server'
import { KIT_KIND_WORDS, inSentence } from '~/words/en'
import type { Route } from './+types/new'

export function meta() {
  return [{ title: 'Add kit · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = writer(context)
  const search = new URL(request.url).searchParams
  return inShop(shop.shopId, async (tx) => ({
    kind: kindOf(search.get('kind')) ?? null,
    kitId: randomUUID(),
    places: await kitPlaces(tx),
    tanks: await cylindersOfKind(tx, 'station'),
  }))
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

export async function action({ request, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const typed = await typedIn(request)
  const kind = kindOf(ownText(typed, 'kind'))
  const made = checkForm(typed, Joi.object<{ kitId: string }>({ kitId: id }))
  if (!kind || made.refused) throw data('This page is out of date: reload it.', { status: 400 })
  const reading = { units: preferencesOf(person.preferences).units }
  const read = readKit(typed, kind, reading)
  if (read.refused) return data(read.refused, { status: 400 })
  const { kitId } = made.value
  try {
    const errors = await inShop(shop.shopId, async (tx) => {
      const errors = await kitProblems(tx, read.data)
      if (Object.keys(errors).length === 0) await addKit(tx, kitId, read.data, now())
      return errors
    })
    if (Object.keys(errors).length > 0) return data(refuse(typed, errors), { status: 400 })
  } catch (error) {
    if (!(error instanceof KitLabelTakenError)) throw error
    return data(refuse(typed, { label: error.message }), { status: 400 })
  }
  return redirect(`/kit/${kitId}`)
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

/** First what it is, then what computing needs of it. */
export default function NewKit({ loaderData, actionData }: Route.ComponentProps) {
  const { kind, kitId, places, tanks } = loaderData
  return (
    <>
      <div className="page-head">
        <h1>{kind ? `Add: ${inSentence(KIT_KIND_WORDS[kind])}` : 'Add kit'}</h1>
      </div>
      {kind ? (
        <KitForm
          key={kind}
          kind={kind}
          start={{ state: 'in-use' }}
          refused={actionData}
          places={places}
          tanks={tanks}
          isNew
          hidden={{ kitId, kind }}
        />
      ) : (
        <nav className="kind-tiles" aria-label="Kinds of kit">
          {KIT_KINDS.map((each) => (
            <Link key={each} className="tile" to={`?kind=${each}`}>
              <KitIcon kind={each} />
              {KIT_KIND_WORDS[each]}
            </Link>
          ))}
        </nav>
      )}
    </>
  )
}
