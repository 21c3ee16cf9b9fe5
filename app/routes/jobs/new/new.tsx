import { randomUUID } from 'node:crypto'
import { type FormEvent, useEffect, useEffectEvent } from 'react'
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
import { inShop, liveKit, scalesInUse, systemOf, systems as listSystems } from '#db'
import { asked } from '~/form/search.server'
import { isId } from '~/form/ids.server'
import { jobKit } from '~/kit/job-kit.server'
import { preferencesOf } from '~/session/preferences'
import { todayIn } from '~/session/clock.server'
import { writer } from '~/session/signed-in.server'
import { LiveSamples, type LiveSource } from '~/samples/live-context'
import { choiceOf, SYSTEMS_SHOWN } from '~/systems/choice'
import { isUnsent, type Unsent } from '~/live/last-good'
import { deviceStamp } from '~/tape/device'
import '~/styles/new-job.scss'
import { useOutbox } from '~/tape/outbox-context'
import { useReadersUnits } from '~/ui/reader'
import type { Route } from './+types/new'
import { atHand } from '~/cylinders/tile.server'
import { begin } from './begin.server'
import { beginning, MOST_ENTRIES } from './entries'
import { FromSystem } from './from-system'
import { keptBeginning, type TypedBeginning } from './kept'
import { QuickStart } from './quick-start'

export function meta() {
  return [{ title: 'New job · Keg' }]
}

export async function loader({ context, request }: Route.LoaderArgs) {
  const { shop, person } = writer(context)
  const search = new URL(request.url).searchParams
  const today = todayIn(shop.timeZone)
  const wanted = search.get('system') ?? undefined
  return inShop(shop.shopId, async (tx) => {
    const [systems, tiles, scales, system, live] = await Promise.all([
      listSystems(tx, '', SYSTEMS_SHOWN + 1),
      atHand(tx, { userId: person.userId, today, marginPct: shop.fillMarginPct }),
      scalesInUse(tx),
      isId(wanted) ? systemOf(tx, wanted) : undefined,
      liveKit(tx),
    ])
    return {
      // Made once for this page: sending the form twice opens one job.
      jobId: randomUUID(),
      runId: randomUUID(),
      newId: randomUUID(),
      systems: systems.map(choiceOf),
      /** The system whose page led here. */
      system: system ? choiceOf(system) : null,
      tiles,
      scales: scales.map((row) => jobKit(row, today)),
      /** Scales that speak for themselves. */
      live: scales.flatMap(({ kitId, label }) =>
        live
          .filter((each) => each.kitId === kitId && each.channel === 'weight')
          .map((each): LiveSource => ({ ...each, kit: label, own: false, inUse: false })),
      ),
      van: preferencesOf(person.preferences).van,
      refrigerants: REFRIGERANTS,
      marginPct: shop.fillMarginPct,
      // Carried here from the slide rule.
      carried: { refrigerant: asked(search, 'refrigerant', 20), cylinder: asked(search, 'cylinder', 80) },
    }
  })
}

export async function action({ request, context }: Route.ActionArgs) {
  const { jobId, refused } = await begin(request, writer(context))
  return refused ? data(refused, { status: 400 }) : redirect(`/jobs/${jobId}`)
}

/** A press counts without a signal, too: what was typed comes back, to be kept on the device. */
export async function clientAction({ request, serverAction }: Route.ClientActionArgs) {
  const form = await request.clone().formData()
  try {
    return await serverAction()
  } catch (error) {
    // An answer is an answer, a way elsewhere for one: only where none came it is kept here.
    if (!(error instanceof TypeError)) throw error
    return { unsent: Object.fromEntries(form) } as Unsent<TypedBeginning>
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
  const { jobId, runId, newId, systems, system, tiles, scales, live, van, refrigerants, marginPct, carried } =
    loaderData
  const busy = useNavigation().state !== 'idle'
  const refused = actionData && 'errors' in actionData ? actionData : undefined
  const kept = useKept(actionData && 'unsent' in actionData ? actionData.unsent : undefined, loaderData)
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
      {kept && (
        <p className={kept.wrong ? 'field-error' : 'next-line'} role="status">
          {kept.text}
        </p>
      )}
      {!(kept && !kept.wrong) && (
        <div className="new-job">
          {!system && (
            <Form method="post" onSubmit={stampWithDevice}>
              {hidden}
              <LiveSamples sources={live} now={Date.now}>
                <QuickStart
                  tiles={tiles}
                  scales={scales}
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

/** What could not be sent is noted on this device; the job opens by itself once it was. */
function useKept(unsent: TypedBeginning | undefined, { tiles, scales }: Route.ComponentProps['loaderData']) {
  const { outbox } = useOutbox()
  const reading = useReadersUnits()
  const navigate = useNavigate()
  const begun = unsent && keptBeginning(unsent, { tiles, scales }, reading)
  const jobId = begun && 'jobId' in begun ? begun.jobId : undefined
  const keep = useEffectEvent(() => {
    if (begun && 'jobId' in begun) void outbox.put(begun.jobId, beginning(begun))
  })
  useEffect(() => {
    if (!jobId) return
    keep()
    return outbox.onSent((sent) => {
      if (sent.jobId === jobId) void navigate(`/jobs/${jobId}`)
    })
  }, [jobId, outbox, navigate])
  if (!begun) return undefined
  if ('wrong' in begun) return { wrong: true, text: begun.wrong }
  return {
    wrong: false,
    text: 'No signal: the job and its start weight are noted on this device. It opens by itself when the signal returns.',
  }
}
