import { randomUUID } from 'node:crypto'
import { type FormEvent, useEffect } from 'react'
import { Button } from 'react-bootstrap'
import {
  data,
  Form,
  Link,
  redirect,
  type ShouldRevalidateFunctionArgs,
  useNavigate,
  useNavigation,
} from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import { busyElsewhere, inShop, liveKit, scalesInUse, systemOf, systems as listSystems } from '#db'
import { asked } from '~/base/form/search'
import { isId } from '~/base/form/ids.server'
import { jobKit } from '~/kit/as-job-kit'
import { preferencesOf } from '~/base/session/preferences'
import { todayIn } from '~/base/session/clock.server'
import { writer } from '~/base/session/signed-in.server'
import { LiveSamples } from '~/device/live/live-context'
import type { LiveSource } from '~/samples/live-source'
import { choiceOf, SYSTEMS_SHOWN } from '~/systems/choice'
import { openPage, readyHere } from '~/device/page/page'
import { isUnsent, type UnsentForm } from '~/device/page/unsent-form'
import { deviceStamp } from '~/tape/device'
import '~/styles/new-job.scss'
import { useOutbox } from '~/device/outbox/outbox-context'
import type { Typed } from '~/base/form/read.server'
import type { Route } from './+types/new'
import { atHand } from '~/cylinders/at-hand.server'
import { begin } from '~/pages/jobs/new/begin.server'
import type { NewJobData } from '~/pages/jobs/new/data'
import { MOST_ENTRIES } from '~/pages/jobs/new/entries'
import { FromSystem } from '~/pages/jobs/new/from-system'
import { QuickStart } from '~/pages/jobs/new/quick-start'

export function meta() {
  return [{ title: 'New job · Keg' }]
}

export async function loader({ context, request }: Route.LoaderArgs) {
  const { shop, person } = writer(context)
  const search = new URL(request.url).searchParams
  const today = todayIn(shop.timeZone)
  const wanted = search.get('system') ?? undefined
  const { van, units } = preferencesOf(person.preferences)
  return inShop(shop.shopId, async (tx) => {
    const [systems, tiles, scales, system, live, busy] = await Promise.all([
      listSystems(tx, '', SYSTEMS_SHOWN + 1),
      atHand(tx, { userId: person.userId, today, marginPct: shop.fillMarginPct }),
      scalesInUse(tx),
      isId(wanted) ? systemOf(tx, wanted) : undefined,
      liveKit(tx),
      busyElsewhere(tx),
    ])
    return {
      jobId: randomUUID(),
      runId: randomUUID(),
      newId: randomUUID(),
      systems: systems.map(choiceOf),
      system: system ? choiceOf(system) : null,
      tiles,
      scales: scales.map((row) => jobKit(row, today)),
      weighing: scales.map(({ kitId }) => kitId).filter((kitId) => busy.includes(kitId)),
      live: scales.flatMap(({ kitId, label }) =>
        live
          .filter((each) => each.kitId === kitId && each.channel === 'weight')
          .map((each): LiveSource => ({ ...each, kit: label, own: false, inUse: false })),
      ),
      van,
      units,
      refrigerants: REFRIGERANTS,
      marginPct: shop.fillMarginPct,
      carried: { refrigerant: asked(search, 'refrigerant', 20), cylinder: asked(search, 'cylinder', 80) },
    } satisfies NewJobData
  })
}

const open = openPage<NewJobData>(() => import('~/pages/jobs/new/from-device').then((each) => each.newJob))
/** What the page was opened with last. */
let shown: NewJobData | undefined

export const clientLoader = Object.assign(
  async (load: Parameters<typeof open>[0]) => (shown = await open(load)),
  { hydrate: true as const },
)

export async function action({ request, context }: Route.ActionArgs) {
  const { jobId, refused } = await begin(request, writer(context))
  return refused ? data(refused, { status: 400 }) : redirect(`/jobs/${jobId}`)
}

/** A press counts without a signal, too: the job begins on this device. */
export async function clientAction({ request, serverAction }: Route.ClientActionArgs) {
  const typed = Object.fromEntries(await request.clone().formData()) as Typed
  try {
    return await serverAction()
  } catch (error) {
    // A response or a redirect came from the server. Only a TypeError, the browser reached none, begins the job here.
    if (!(error instanceof TypeError) || !shown) throw error
    const { beginHere } = await import('~/pages/jobs/new/begin-here')
    const begun = await beginHere(typed, shown)
    if ('errors' in begun) return { typed, errors: begun.errors }
    return begun.opens
      ? redirect(`/jobs/${begun.jobId}`)
      : ({ unsent: begun.jobId } satisfies UnsentForm<string>)
  }
}

export const shouldRevalidate = ({ actionResult, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs) =>
  !isUnsent(actionResult) && defaultShouldRevalidate

/** Gives what is sent the clock, the name and the count of this device. */
function stampWithDevice({ currentTarget: form }: FormEvent<HTMLFormElement>) {
  const { at, deviceId, deviceSeq } = deviceStamp(MOST_ENTRIES)
  for (const [name, value] of Object.entries({ at, deviceId, deviceSeq }))
    (form.elements.namedItem(name) as HTMLInputElement).value = String(value)
}

/** Two ways in: from the roof in a hurry, or from a system with everything known. */
export default function NewJob({ loaderData, actionData }: Route.ComponentProps) {
  const {
    jobId,
    runId,
    newId,
    systems,
    system,
    tiles,
    scales,
    weighing,
    live,
    van,
    refrigerants,
    marginPct,
    carried,
  } = loaderData
  const busy = useNavigation().state !== 'idle'
  const refused = actionData && 'errors' in actionData ? actionData : undefined
  const unsent = actionData && 'unsent' in actionData ? actionData.unsent : undefined
  useSentLater(unsent)
  useReadyWithoutSignal()
  const quickRefused = refused?.typed.way === 'quick' ? refused : undefined
  const hidden = (
    <>
      <input type="hidden" name="jobId" value={refused?.typed.jobId ?? jobId} />
      <input type="hidden" name="runId" value={refused?.typed.runId ?? runId} />
      <input type="hidden" name="at" />
      <input type="hidden" name="deviceId" />
      <input type="hidden" name="deviceSeq" />
    </>
  )
  return (
    <>
      <div className="page-head">
        <h1>New job</h1>
        <div className="actions">
          <a className="btn btn-outline-primary d-md-none" href="#from-system">
            From a system
          </a>
        </div>
      </div>
      {unsent ? (
        <p className="next-line" role="status">
          No signal: the job and its start weight are noted on this device. It opens by itself when the signal
          returns.
        </p>
      ) : (
        <div className="new-job">
          {!system && (
            <Form method="post" onSubmit={stampWithDevice}>
              {hidden}
              <LiveSamples sources={live} now={Date.now}>
                <QuickStart
                  tiles={tiles}
                  scales={scales}
                  weighing={weighing}
                  van={van}
                  refrigerants={refrigerants}
                  marginPct={marginPct}
                  refused={quickRefused}
                  carried={carried}
                  newId={newId}
                  busy={busy}
                />
              </LiveSamples>
            </Form>
          )}
          <Form method="post" onSubmit={stampWithDevice} id="from-system">
            {hidden}
            <FromSystem
              systems={systems}
              system={system}
              refrigerants={refrigerants}
              refused={quickRefused ? undefined : refused}
            />
            <div className="form-foot">
              <Button type="submit" name="way" value="system" className="btn-big" disabled={busy}>
                {busy ? 'Opening …' : 'Open the job'}
              </Button>
              {system && (
                <Link className="btn btn-outline-secondary" to="/jobs/new">
                  Without a system
                </Link>
              )}
            </div>
          </Form>
        </div>
      )}
    </>
  )
}

/** Go counts without a signal: what it takes is here before it is lost. */
const useReadyWithoutSignal = () =>
  useEffect(() => {
    readyHere(() => import('~/pages/jobs/new/begin-here'))
  }, [])

/** A device that knows too little of the shop yet opens the job once it was sent. */
function useSentLater(jobId: string | undefined) {
  const { outbox } = useOutbox()
  const navigate = useNavigate()
  useEffect(() => {
    if (!jobId) return
    return outbox.onSent((sent) => {
      if (sent.jobId === jobId) void navigate(`/jobs/${jobId}`)
    })
  }, [jobId, outbox, navigate])
}
