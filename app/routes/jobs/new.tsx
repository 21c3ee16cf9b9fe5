import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { type FormEvent, useState } from 'react'
import { Button } from 'react-bootstrap'
import { data, Form, Link, redirect, useNavigation } from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import { type Entry, type EntryBodies, type EntryKind, versionOf } from '#core/tape'
import { append, findCylinders, inShop, openJob, systemOf, systems as listSystems } from '#db'
import { asked } from '~/form/search.server'
import { id, measured, optionalId, readForm, refrigerantField, refuse, text } from '~/form/read.server'
import { now, todayIn } from '~/session/clock.server'
import { preferencesOf } from '~/session/preferences'
import { writer } from '~/session/signed-in.server'
import { choiceOf, SYSTEMS_SHOWN } from '~/systems/choice'
import { SystemPicker } from '~/systems/picker'
import { deviceStamp } from '~/tape/device'
import { Field, SelectField } from '~/ui/field'
import { MeasureField } from '~/ui/measure-field'
import { REASON_WORDS } from '~/wording/en'
import type { Route } from './+types/new'

export function meta() {
  return [{ title: 'New job · Keg' }]
}

export async function loader({ context, request }: Route.LoaderArgs) {
  const { shop } = writer(context)
  const search = new URL(request.url).searchParams
  const systems = await inShop(shop.shopId, (tx) => listSystems(tx, '', SYSTEMS_SHOWN + 1))
  return {
    // Made once for this page: sending the form twice opens one job.
    jobId: randomUUID(),
    runId: randomUUID(),
    systems: systems.map(choiceOf),
    refrigerants: REFRIGERANTS,
    // Carried here from the slide rule.
    carried: { refrigerant: asked(search, 'refrigerant', 20), cylinder: asked(search, 'cylinder', 80) },
  }
}

interface NewJob {
  jobId: string
  runId: string
  systemId?: string
  title?: string
  refrigerant?: string
  cylinder?: string
  startWeight?: number
  mode?: 'gross' | 'net'
  /** The device's clock, its name and its count, as every other entry has them; without scripts, the server's. */
  at?: number
  deviceId?: string
  deviceSeq?: number
}

export async function action({ request, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const reading = { units: preferencesOf(person.preferences).units }
  const schema = Joi.object<NewJob>({
    jobId: id,
    runId: id,
    systemId: optionalId,
    title: text('what the job is', 200),
    refrigerant: refrigerantField,
    cylinder: text('the label of the cylinder', 80),
    startWeight: measured('weight', 'the start weight', reading),
    mode: Joi.string().valid('gross', 'net'),
    at: Joi.number()
      .integer()
      .min(0)
      .max(Date.UTC(2200, 0, 1))
      .empty(''),
    deviceId: Joi.string().max(80).empty(''),
    deviceSeq: Joi.number()
      .integer()
      .min(0)
      .max(2 ** 31 - 10)
      .empty(''),
  })
  const form = await readForm(request, schema)
  if (form.refused) return data(form.refused, { status: 400 })
  const job = form.value
  const refused = (errors: Record<string, string>) => data(refuse(form.typed, errors), { status: 400 })
  if (job.cylinder && !job.refrigerant && !job.systemId)
    return refused({
      refrigerant: 'Choose the refrigerant: without it nobody can say whether this cylinder may take it.',
    })
  if (job.startWeight !== undefined && !job.cylinder)
    return refused({ cylinder: 'Enter which cylinder is on the scale.' })

  const at = now()
  const deviceAt = job.at ?? at.getTime()
  const result = await inShop(shop.shopId, async (tx): Promise<Record<string, string> | undefined> => {
    const system = job.systemId ? await systemOf(tx, job.systemId) : undefined
    if (job.systemId && !system) return { systemId: 'Choose the system from the list again.' }
    const refrigerant = job.refrigerant ?? system?.refrigerant ?? null
    const cylinder = job.cylinder
      ? (await findCylinders(tx, job.cylinder)).find(
          (c) => c.label.toLowerCase() === job.cylinder!.toLowerCase(),
        )
      : undefined
    if (job.cylinder && !cylinder)
      return {
        cylinder: `No cylinder in use has the label "${job.cylinder}": look at the label, or add it under Cylinders.`,
      }
    const entries = [
      entry(0, 'job-described', { title: job.title ?? '', systemId: system?.systemId ?? null, refrigerant }),
    ]
    if (cylinder)
      entries.push(
        entry(1, 'cylinder-chosen', { cylinderId: cylinder.cylinderId, use: 'recover', massMg: null }),
      )
    if (cylinder && job.startWeight !== undefined)
      entries.push(
        entry(2, 'run-started', {
          runId: job.runId,
          use: 'recover',
          cylinderId: cylinder.cylinderId,
          scale: '',
          mode: job.mode ?? 'gross',
          weightMg: job.startWeight,
        }),
      )
    await openJob(tx, job.jobId, person.userId, at)
    const { refused } = await append(tx, {
      jobId: job.jobId,
      userId: person.userId,
      entries,
      sentAt: deviceAt,
      offsetMs: deviceAt - at.getTime(),
      now: at,
      today: todayIn(shop.timeZone),
    })
    if (refused.length === 0) return undefined
    // Nothing of a job that cannot begin like this: the form is shown again with what was typed.
    throw new NotLikeThis(
      refused.flatMap((r) => r.reasons.map(({ code }) => REASON_WORDS[code] ?? code)).join(' '),
    )
  }).catch((error: unknown) => {
    if (error instanceof NotLikeThis) return { cylinder: error.message }
    throw error
  })
  return result ? refused(result) : redirect(`/jobs/${job.jobId}`)

  function entry<K extends EntryKind>(n: number, kind: K, body: EntryBodies[K]): Entry {
    return {
      entryId: sameEachTime(job.jobId, n),
      kind,
      version: versionOf(kind),
      at: deviceAt,
      deviceId: job.deviceId ?? 'new-job',
      deviceSeq: (job.deviceSeq ?? 0) + n,
      body,
    } as Entry
  }
}

/** What this form writes at most: described, cylinder chosen, transfer started. */
const MOST_ENTRIES = 3

/** The transaction is given up. */
class NotLikeThis extends Error {}

/** The n-th entry of this form, whenever it is sent again. */
function sameEachTime(jobId: string, n: number): string {
  return jobId.slice(0, -1) + ((Number.parseInt(jobId.slice(-1), 16) + n) % 16).toString(16)
}

/** Gives what is sent the clock, the name and the count of this device. */
function stampWithDevice({ currentTarget: form }: FormEvent<HTMLFormElement>) {
  const { at, deviceId, deviceSeq } = deviceStamp(MOST_ENTRIES)
  for (const [name, value] of Object.entries({ at, deviceId, deviceSeq }))
    (form.elements.namedItem(name) as HTMLInputElement).value = String(value)
}

/** Two ways in: from the list with everything known, or from the roof in a hurry. */
export default function NewJob({ loaderData, actionData }: Route.ComponentProps) {
  const { jobId, runId, systems, refrigerants, carried } = loaderData
  const busy = useNavigation().state !== 'idle'
  const field = (name: keyof NewJob) => ({
    name,
    value: actionData ? actionData.typed[name] : (carried as Partial<Record<keyof NewJob, string>>)[name],
    error: actionData?.errors[name],
  })
  const [systemId, setSystemId] = useState(actionData?.typed.systemId ?? '')
  const [quick, setQuick] = useState(
    (actionData ? actionData.typed.cylinder : carried.cylinder) ? true : false,
  )
  const gases: [string, string][] = [
    ['', 'Not known yet'],
    ...refrigerants.map((r): [string, string] => [r, r]),
  ]
  return (
    <>
      <div className="page-head">
        <h1>New job</h1>
        <div className="actions" role="group" aria-label="How to begin">
          <Button
            variant={quick ? 'outline-primary' : 'primary'}
            aria-pressed={!quick}
            onClick={() => setQuick(false)}
          >
            From a system
          </Button>
          <Button
            variant={quick ? 'primary' : 'outline-primary'}
            aria-pressed={quick}
            onClick={() => setQuick(true)}
          >
            Quick start from the roof
          </Button>
        </div>
      </div>
      <Form method="post" onSubmit={stampWithDevice}>
        <input type="hidden" name="jobId" value={actionData?.typed.jobId ?? jobId} />
        <input type="hidden" name="runId" value={actionData?.typed.runId ?? runId} />
        <input type="hidden" name="at" />
        <input type="hidden" name="deviceId" />
        <input type="hidden" name="deviceSeq" />
        {quick ? (
          <fieldset className="group">
            <legend>Gas, cylinder, start weight, go</legend>
            <p className="quiet">System, plate and customer are filled in later.</p>
            <div className="form-grid">
              <SelectField {...field('refrigerant')} label="Refrigerant" options={gases} />
              <Field {...field('cylinder')} label="Label of the cylinder on the scale" />
              <MeasureField {...field('startWeight')} kind="weight" label="Start weight" hero />
              <SelectField
                {...field('mode')}
                label="Gross or net"
                options={[
                  ['gross', 'gross: the whole cylinder'],
                  ['net', 'net: zeroed with it on'],
                ]}
              />
            </div>
          </fieldset>
        ) : (
          <fieldset className="group">
            <legend>Which system</legend>
            <div className="form-grid">
              <SystemPicker
                name="systemId"
                offered={systems}
                value={systemId}
                onChoose={(system) => setSystemId(system?.systemId ?? '')}
                error={actionData?.errors.systemId}
                help={
                  <>
                    Not in the list? <Link to="/systems/new">Add it</Link>, plate and customer with it.
                  </>
                }
              />
              <SelectField
                {...field('refrigerant')}
                label="Refrigerant"
                options={[['', 'As on the plate'], ...gases.slice(1)]}
              />
              <Field {...field('title')} label="What the job is (may stay empty)" maxLength={200} />
            </div>
          </fieldset>
        )}
        <div className="form-foot">
          <Button type="submit" className="btn-big" disabled={busy}>
            {busy ? 'Opening …' : quick ? 'Go' : 'Open the job'}
          </Button>
        </div>
      </Form>
    </>
  )
}
