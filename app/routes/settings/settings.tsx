import { data, Link } from 'react-router'
import { apiTokens, inShop, kitPlaces, people, readShop } from '#db'
import { ownText, typedIn } from '~/base/form/read.server'
import { SignOut } from '~/device/waiting/sign-out'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { preferencesOf } from '~/base/session/preferences'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/settings'
import { changeOwnPassword, changeOwnUnits } from '~/pages/settings/own.server'
import { OwnSettings } from '~/pages/settings/own'
import { PeopleSettings } from '~/pages/settings/people'
import { addSomeone, changeSomeone, resetSomeone } from '~/pages/settings/people.server'
import { ShopSettings } from '~/pages/settings/shop'
import { changeTheShop } from '~/pages/settings/shop.server'
import { TokenSettings } from '~/pages/settings/tokens'
import { makeToken, revokeToken } from '~/pages/settings/tokens.server'

export function meta() {
  return [{ title: 'Settings · Keg' }]
}

export async function loader({ context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const isManager = person.role === 'manager'
  return inShop(shop.shopId, async (tx) => ({
    me: {
      userId: person.userId,
      name: person.name,
      role: person.role,
      signIn: person.signIn,
      version: person.version,
    },
    preferences: preferencesOf(person.preferences),
    shop: isManager ? await readShop(tx) : null,
    people: isManager ? await people(tx) : null,
    tokens: isManager ? await apiTokens(tx) : null,
    timeZone: shop.timeZone,
    places: await kitPlaces(tx),
    timeZones: isManager ? Intl.supportedValuesOf('timeZone') : [],
  }))
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

const ACTIONS = {
  units: changeOwnUnits,
  password: changeOwnPassword,
  shop: changeTheShop,
  'add-person': addSomeone,
  'change-person': changeSomeone,
  'reset-person': resetSomeone,
  'make-token': makeToken,
  'revoke-token': revokeToken,
}

export async function action(args: Route.ActionArgs) {
  const typed = await typedIn(args.request)
  const intent = ownText(typed, 'intent')
  if (!Object.hasOwn(ACTIONS, intent)) throw data('This page is out of date: reload it.', { status: 400 })
  const result = await ACTIONS[intent as keyof typeof ACTIONS]({ ...args, typed })
  return data({ intent, ...result }, { status: result.errors ? 400 : 200 })
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

/** One's own units, look and password; for managers the shop, its people and its tokens. */
export default function Settings({ loaderData, actionData }: Route.ComponentProps) {
  const { me, preferences, shop, people, tokens, timeZone, timeZones, places } = loaderData
  return (
    <>
      <div className="page-head">
        <h1>Settings</h1>
        <span className="quiet">
          {me.name}, signed in as {me.signIn}
        </span>
      </div>
      {actionData?.done && (
        <p className="verdict verdict-good" role="status">
          {actionData.done}
        </p>
      )}
      <OwnSettings preferences={preferences} places={places} version={me.version} result={actionData} />
      {shop && (
        <p>
          <Link className="btn btn-outline-primary" to="/exchange">
            Import and export
          </Link>
        </p>
      )}
      {shop && <ShopSettings shop={shop} timeZones={timeZones} result={actionData} />}
      {people && <PeopleSettings people={people} me={me.userId} tokens={tokens ?? []} result={actionData} />}
      {tokens && <TokenSettings tokens={tokens} timeZone={timeZone} result={actionData} />}
      {/* Not at the thumb, where a glove finds it unasked. */}
      <SignOut className="d-md-none mt-3" button="btn btn-outline-secondary btn-big" />
    </>
  )
}
