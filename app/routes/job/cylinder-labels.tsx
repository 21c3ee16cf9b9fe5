import { toDataURL } from 'qrcode'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { refrigerant as factsOf } from '#core/refrigerants'
import { gasAt } from '#core/tape'
import { openPage } from '~/device/page/page'
import { idOf } from '~/base/form/ids.server'
import { signedIn } from '~/base/session/signed-in.server'
import { useTape } from '~/job/tape/use-tape'
import { useShow } from '~/base/ui/reader'
import { day } from '~/base/ui/time'
import { CONDITION_WORDS } from '~/words/en'
import type { Route } from './+types/cylinder-labels'
import { loadJob } from '~/job-data/load.server'

export async function loader({ params, context, request }: Route.LoaderArgs) {
  const job = await loadJob(signedIn(context), idOf(params.jobId), { whole: true })
  const origin = process.env.KEG_ORIGIN ?? new URL(request.url).origin
  const codes = await Promise.all(
    job.cylinders.map(
      async ({ cylinderId }) =>
        [
          cylinderId,
          await toDataURL(`${origin}/cylinders/${cylinderId}`, { margin: 0, width: 160 }),
        ] as const,
    ),
  )
  return { job, codes: Object.fromEntries(codes) }
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>, Route.LoaderArgs['params']>(() =>
  import('~/pages/jobs/job-from-device').then((each) => each.cylinderLabels),
)

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `Cylinder labels, job ${loaderData.job.number ?? '–'} · Keg` : 'Keg' }]
}

/** For the cylinders that a job recovered into: what is in them now, whose it is, and what it is fit for. */
export default function CylinderLabels({ loaderData: { job, codes } }: Route.ComponentProps) {
  const { state } = useTape(job.jobId, job)
  const show = useShow()
  const received = [
    ...new Set(
      state.transfers
        .filter((each) => each.use === 'recover' && each.amountMg > 0)
        .map((each) => each.cylinderId),
    ),
  ]
  return (
    <>
      <div className="page-head no-print">
        <h1>Cylinder labels</h1>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to={`/jobs/${job.jobId}`}>
            Back to the job
          </Link>
          {received.length > 0 && <Button onClick={() => window.print()}>Print</Button>}
        </div>
      </div>
      {received.length === 0 && (
        <div className="empty">Nothing was recovered in this job, so no cylinder wants a label.</div>
      )}
      {received.map((cylinderId) => {
        const cylinder = job.cylinders.find((each) => each.cylinderId === cylinderId)
        if (!cylinder) return null
        const last = state.transfers.findLast((each) => each.cylinderId === cylinderId)!
        const gas = cylinder.refrigerant ?? gasAt(state, last.startedAt)
        const mixed = cylinder.condition === 'mixed'
        return (
          <div key={cylinderId} className="print-sheet charge-label" data-bs-theme="light">
            <div className="label-head">
              <div>
                <div>{job.shop.heading}</div>
                <strong>{cylinder.label}</strong>
                <div className="quiet">{cylinder.owner ? `owner: ${cylinder.owner}` : 'the shop’s own'}</div>
              </div>
              <img
                src={codes[cylinderId]}
                width={80}
                height={80}
                alt="Code that opens this cylinder in Keg"
              />
            </div>
            <div className="gas">
              {mixed ? 'MIXED GAS' : (gas ?? 'Gas not known')}{' '}
              {gas && !mixed && <small>({factsOf(gas).safetyClass})</small>}
            </div>
            <div className="total">{show('weight', cylinder.balanceMg)}</div>
            <dl className="facts mt-2">
              <div>
                <dt>Gross</dt>
                <dd>{show('weight', cylinder.tareMg + cylinder.balanceMg)}</dd>
              </div>
              <div>
                <dt>Condition</dt>
                <dd>{CONDITION_WORDS[cylinder.condition]}</dd>
              </div>
              <div>
                <dt>From job</dt>
                <dd>
                  {job.number ?? 'no number yet'}
                  {job.system && `, ${job.system.name}`}
                </dd>
              </div>
              <div>
                <dt>Date</dt>
                <dd>{day(last.endedAt ?? state.lastAt, job.shop.timeZone)}</dd>
              </div>
            </dl>
          </div>
        )
      })}
    </>
  )
}
