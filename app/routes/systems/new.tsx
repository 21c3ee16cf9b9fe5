import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { data, redirect } from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import { BORE_M } from '#core/systems'
import { type Entry, versionOf } from '#core/tape'
import { addSystem, append, customers, inShop, jobHead, jobSummary, sites } from '#db'
import { openPage } from '~/device/page/page'
import { typedOf } from '~/base/form/check'
import { sendForm } from '~/device/page/send-form'
import { found, isId } from '~/base/form/ids.server'
import { checkForm, id, optionalId, ownText, typedIn } from '~/base/form/read.server'
import { now, todayIn } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { writer } from '~/base/session/signed-in.server'
import { SystemForm } from '~/systems/form'
import { systemFrom } from '~/systems/fields'
import { placeOf } from '~/systems/place.server'
import type { Route } from './+types/new'
import type { NewSystemData } from '~/pages/systems/system-data'

export function meta() {
  return [{ title: 'Add a system · Keg' }]
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { shop } = writer(context)
  const jobId = new URL(request.url).searchParams.get('job') ?? ''
  return inShop(
    shop.shopId,
    async (tx) =>
      ({
        systemId: randomUUID(),
        entryId: randomUUID(),
        jobId: isId(jobId) && (await jobHead(tx, jobId)) ? jobId : '',
        refrigerant: isId(jobId) ? ((await jobSummary(tx, jobId))?.refrigerant ?? '') : '',
        refrigerants: REFRIGERANTS,
        pipes: Object.keys(BORE_M),
        customers: (await customers(tx)).map((c) => c.name),
        sites: [...new Set((await sites(tx)).map((s) => s.name))],
      }) satisfies NewSystemData,
  )
}

export const clientLoader = openPage<NewSystemData>(() =>
  import('~/pages/systems/from-device').then((each) => each.newSystem),
)

export async function action({ request, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const read = systemFrom(await typedIn(request), { units: preferencesOf(person.preferences).units })
  if (read.refused) return data(read.refused, { status: 400 })
  const made = checkForm(
    read.typed,
    Joi.object<{ systemId: string; entryId: string; jobId?: string }>({
      systemId: id,
      entryId: id,
      jobId: optionalId,
    }),
  )
  if (made.refused) throw data('This page is out of date: reload it.', { status: 400 })
  const { systemId, entryId, jobId } = made.value
  const at = now()
  await inShop(shop.shopId, async (tx) => {
    const siteId = await placeOf(tx, read.value, at)
    // What was printed is kept beside what it was taken for.
    const { plateText } = read.value.data
    const printed = plateText || ownText(read.typed, 'plate').trim()
    await addSystem(tx, systemId, { ...read.value.data, plateText: printed, siteId }, at)
    if (!jobId) return
    found(await jobHead(tx, jobId), 'job')
    const { refrigerant } = read.value.data
    const entry = {
      entryId,
      kind: 'job-described',
      version: versionOf('job-described'),
      at: at.getTime(),
      deviceId: 'new-system',
      deviceSeq: 1,
      body: { systemId, ...(refrigerant ? { refrigerant } : {}) },
    } as Entry
    await append(tx, {
      jobId,
      userId: person.userId,
      entries: [entry],
      sentAt: at.getTime(),
      offsetMs: 0,
      now: at,
      today: todayIn(shop.timeZone),
    })
  })
  return redirect(jobId ? `/jobs/${jobId}` : `/systems/${systemId}`)
}

/** Without signal it is made on this device, and put into the job from there. */
export async function clientAction({ request, serverAction }: Route.ClientActionArgs) {
  const typed = typedOf(await request.clone().formData())
  return sendForm({ serverAction }, async () => {
    const { makeSystem } = await import('~/device/page/make')
    const made = await makeSystem(typed)
    if (!('id' in made)) return made
    return redirect(typed.jobId ? `/jobs/${typed.jobId}` : `/systems/${made.id}`)
  })
}

export default function NewSystem({ loaderData, actionData }: Route.ComponentProps) {
  const { systemId, entryId, jobId, refrigerant, ...lists } = loaderData
  return (
    <>
      <div className="page-head">
        <h1>Add a system</h1>
        {jobId && <span className="quiet">It is put into the job you came from.</span>}
      </div>
      <SystemForm
        start={{ trade: 'stationary', metering: 'valve', refrigerant }}
        refused={actionData}
        {...lists}
        isNew
        hidden={{ systemId, entryId, jobId }}
      />
    </>
  )
}
