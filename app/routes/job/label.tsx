import { toDataURL } from 'qrcode'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { type InSystem, inSystemNow, judgingContext } from '#core/tape'
import { refrigerant as factsOf } from '#core/refrigerants'
import { co2EquivalentT } from '#core/leaks'
import { echoWeight, MG_PER_KG } from '#core/units'
import { openPage } from '~/device/page/page'
import { idOf } from '~/base/form/ids.server'
import { signedIn } from '~/base/session/signed-in.server'
import { useTape } from '~/job/tape/use-tape'
import { useShow } from '~/base/ui/reader'
import { day } from '~/base/ui/time'
import type { Route } from './+types/label'
import { loadJob } from '~/job-data/load.server'
import { OnSite } from '~/job/field/on-site'
import { IN_SYSTEM_WORDS } from '~/words/en'
import { nextDates } from '~/job/paper/summary'

export async function loader({ params, context, request }: Route.LoaderArgs) {
  const who = signedIn(context)
  const job = await loadJob(who, idOf(params.jobId), { whole: true })
  const origin = process.env.KEG_ORIGIN ?? new URL(request.url).origin
  const address = `${origin}${job.system ? `/systems/${job.system.systemId}` : `/jobs/${job.jobId}`}`
  return { job, code: await toDataURL(address, { margin: 0, width: 160 }) }
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>, Route.LoaderArgs['params']>(() =>
  import('~/pages/jobs/job-from-device').then((each) => each.label),
)

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `Charge label, job ${loaderData.job.number ?? '–'} · Keg` : 'Keg' }]
}

const NOT_WEIGHED: Partial<Record<InSystem['kind'], string>> = {
  empty: 'The system is empty, so that is what the label says. Charge it first.',
  added:
    'It was not emptied in this job, and how much was in it nobody knows: the label says what was added, and no total.',
  taken:
    'It was not emptied in this job, and how much was in it nobody knows: the label says what came out, and no total.',
}

/** The total on the label, with how it is known where it was not all weighed in. */
function Total({ now }: { now: InSystem }) {
  const show = useShow()
  if (now.kind === 'empty')
    return (
      <>
        <div className="quiet">Total charge now</div>
        <div className="total">empty</div>
      </>
    )
  if (now.kind === 'as-found') return null
  return (
    <>
      <div className="quiet">{now.kind === 'weighed' ? 'Total charge now' : IN_SYSTEM_WORDS[now.kind]}</div>
      <div className="total">{show('weight', now.massMg)}</div>
      <div>{echoWeight(now.massMg)}</div>
    </>
  )
}

const SIZES = { '62x100': '62 × 100 mm', a6: 'A6' } as const
type Size = keyof typeof SIZES

/** For the inside of the panel, protected from light: what is in the system now, for whoever comes next. */
export default function Label({ loaderData: { job, code } }: Route.ComponentProps) {
  // With what only this device knows yet: paper must not be older than the page.
  const { state } = useTape(job.jobId, job)
  const now = inSystemNow(state)
  const totalMg = now.kind === 'weighed' ? now.massMg : 0
  const show = useShow()
  const { system } = job
  const [size, setSize] = useState<Size>('62x100')
  const judging = judgingContext(job, state)
  const by = [...new Set(job.entries.map((each) => job.people[each.userId ?? '']).filter(Boolean))]
  const dates = nextDates(state, judging)
  const facts = state.refrigerant ? factsOf(state.refrigerant) : undefined
  const lines = system?.lines.map((line) => `${line.od} in ${line.kind} ${show('length', line.lengthM)}`)
  // A label says what was charged: without a charge there is none.
  if (!state.episodes.some((each) => each.charges > 0))
    return (
      <>
        <div className="page-head">
          <h1>Charge label</h1>
        </div>
        <div className="empty">
          <p>Nothing was charged in this job, so there is no label for it.</p>
          <Link className="btn btn-primary btn-big" to={`/jobs/${job.jobId}`}>
            Back to the job
          </Link>
        </div>
      </>
    )
  return (
    <OnSite altitudeM={system?.altitudeM}>
      <div className="page-head no-print">
        <h1>Charge label</h1>
        <div className="actions">
          <Form.Select
            aria-label="Size of the label"
            value={size}
            onChange={(event) => setSize(event.target.value as Size)}
            style={{ width: 'auto' }}
          >
            {Object.entries(SIZES).map(([code, words]) => (
              <option key={code} value={code}>
                {words}
              </option>
            ))}
          </Form.Select>
          <Link className="btn btn-outline-secondary" to={`/jobs/${job.jobId}`}>
            Back to the job
          </Link>
          <Button onClick={() => window.print()}>Print</Button>
        </div>
      </div>
      {NOT_WEIGHED[now.kind] && <p className="no-print field-error">{NOT_WEIGHED[now.kind]}</p>}
      <div className={`print-sheet charge-label size-${size}`} data-bs-theme="light">
        <div className="label-head">
          <div>
            <div>{job.shop.heading}</div>
            <strong>{system?.name ?? (state.title || 'System not named')}</strong>
            <div className="quiet">{system && `${system.customer}, ${system.site}`}</div>
          </div>
          <img src={code} width={80} height={80} alt="Code that opens this system in Keg" />
        </div>
        <div className="gas">
          {state.refrigerant ?? 'Refrigerant not known'} {facts && <small>({facts.safetyClass})</small>}
        </div>
        <Total now={now} />
        <dl className="facts mt-2">
          <div>
            <dt>Date</dt>
            <dd>{day(state.closedAt ?? state.lastAt, job.shop.timeZone)}</dd>
          </div>
          <div>
            <dt>Job</dt>
            <dd>{job.number ?? 'no number yet'}</dd>
          </div>
          {(system?.oilType || state.oil.inMl > 0) && (
            <div>
              <dt>Oil</dt>
              <dd>
                {system?.oilType} {state.oil.inMl > 0 && `${show('volume', state.oil.inMl)} put in`}
              </dd>
            </div>
          )}
          {lines && lines.length > 0 && (
            <div>
              <dt>Lines</dt>
              <dd>{lines.join(', ')}</dd>
            </div>
          )}
          {by.length > 0 && (
            <div>
              <dt>By</dt>
              <dd>{by.join(', ')}</dd>
            </div>
          )}
          {dates.map(({ on, what }) => (
            <div key={what}>
              <dt>Next check</dt>
              <dd>
                {day(on, job.shop.timeZone)}, {what.split(',')[0]!.toLowerCase()}
              </dd>
            </div>
          ))}
          {facts && totalMg > 0 && (
            <div>
              <dt>CO₂ equivalent</dt>
              <dd>{co2EquivalentT(totalMg / MG_PER_KG, facts.gwp).toFixed(2)} t</dd>
            </div>
          )}
        </dl>
      </div>
    </OnSite>
  )
}
