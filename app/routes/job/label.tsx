import { toDataURL } from 'qrcode'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { foldTape } from '#core/tape'
import { refrigerant as factsOf } from '#core/refrigerants'
import { echoWeight } from '#core/units'
import { inShop, type ShopTx, systemBeforeMg } from '#db'
import { idOf } from '~/form/ids.server'
import { signedIn } from '~/session/signed-in.server'
import { useShow } from '~/ui/reader'
import { day } from '~/ui/time'
import type { Route } from './+types/label'
import { type JobData, loadJob } from './load.server'

export async function loader({ params, context, request }: Route.LoaderArgs) {
  const who = signedIn(context)
  const job = await loadJob(who, idOf(params.jobId))
  const totalMg = await inShop(who.shop.shopId, (tx) => totalAfter(tx, job))
  const origin = process.env.KEG_ORIGIN ?? new URL(request.url).origin
  const address = `${origin}${job.system ? `/systems/${job.system.systemId}` : `/jobs/${job.jobId}`}`
  return { job, totalMg, code: await toDataURL(address, { margin: 0, width: 160 }) }
}

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `Charge label, job ${loaderData.job.number} · Keg` : 'Keg' }]
}

/** What was in the system when this job was done, also when the label is printed again years later. */
async function totalAfter(tx: ShopTx, { jobId, system, entries }: JobData): Promise<number> {
  const { chargedMg, recoveredMg, recoveryEnded, openedAt } = foldTape(entries)
  if (!system || recoveryEnded?.emptied) return chargedMg
  const beforeMg = await systemBeforeMg(tx, system.systemId, jobId, new Date(openedAt))
  return Math.max(chargedMg, beforeMg + chargedMg - recoveredMg)
}

/** For the inside of the panel, protected from light: what is in the system now, for whoever comes next. */
export default function Label({ loaderData: { job, totalMg, code } }: Route.ComponentProps) {
  const state = foldTape(job.entries)
  const show = useShow()
  const { system } = job
  const facts = state.refrigerant ? factsOf(state.refrigerant) : undefined
  const lines = system?.lines.map((line) => `${line.od} in ${line.kind} ${show('length', line.lengthM)}`)
  return (
    <>
      <div className="page-head no-print">
        <h1>Charge label</h1>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to={`/jobs/${job.jobId}`}>
            Back to the job
          </Link>
          <Button onClick={() => window.print()}>Print</Button>
        </div>
      </div>
      {state.chargedMg <= 0 && (
        <p className="no-print field-error">
          Nothing was charged on this job, so there is no total to print yet. Charge the system first.
        </p>
      )}
      <div className="print-sheet charge-label" data-bs-theme="light">
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
        <div className="quiet">Total charge now</div>
        <div className="total">{show('weight', totalMg)}</div>
        <div>{echoWeight(totalMg)}</div>
        <dl className="facts mt-2">
          <div>
            <dt>Date</dt>
            <dd>{day(state.closedAt ?? state.lastAt, job.shop.timeZone)}</dd>
          </div>
          <div>
            <dt>Job</dt>
            <dd>{job.number}</dd>
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
          {facts && (
            <div>
              <dt>CO₂ equivalent</dt>
              <dd>{((totalMg / 1e9) * facts.gwp).toFixed(2)} t</dd>
            </div>
          )}
        </dl>
      </div>
    </>
  )
}
