import { Link } from 'react-router'
import { co2EquivalentT } from '#core/leaks'
import { MG_PER_KG } from '#core/units'
import { readVin } from '#core/vehicles'
import { inShop, jobsOn, movements, retrofitsOf, systemOf } from '#db'
import { found, idOf } from '~/base/form/ids.server'
import { HeldOver } from '~/ledger/held-over'
import { MovementTable } from '~/ledger/movement-table'
import { useRefresh } from '~/device/news/changes'
import { openPage } from '~/device/page/page'
import { now } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import { leakRateOf } from '~/systems/leak-rate'
import { expectedChargeLink } from '~/slide-rule/links'
import { Fact } from '~/base/ui/fact'
import { jobNumber } from '~/base/ui/job-number'
import { NotSent } from '~/base/ui/not-sent'
import { useShow } from '~/base/ui/reader'
import { day } from '~/base/ui/time'
import { DRIVE_WORDS, JOB_STATUS_WORDS, METERING_WORDS, TRADE_WORDS, inSentence } from '~/words/en'
import type { Route } from './+types/system'
import { systemData, type SystemPageData } from '~/pages/systems/system-data'

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `${loaderData.system.name} · Keg` : 'Keg' }]
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const systemId = idOf(params.systemId)
  return inShop(shop.shopId, async (tx) => {
    const system = found(await systemOf(tx, systemId), 'system')
    const [jobs, ledger, retrofits] = await Promise.all([
      jobsOn(tx, systemId),
      movements(tx, { systemId }, 200),
      retrofitsOf(tx, systemId),
    ])
    return systemData({
      system,
      jobs,
      past: { ledger, retrofits },
      ahead: false,
      timeZone: shop.timeZone,
      loadedAt: now().getTime(),
      mayWrite: person.role !== 'trainee',
    })
  })
}

export const clientLoader = openPage<SystemPageData, Route.LoaderArgs['params']>(() =>
  import('~/pages/systems/from-device').then((each) => each.system),
)

/** One system: its plate, what should be in it, and what was done to it. */
export default function System({ loaderData }: Route.ComponentProps) {
  const { system, jobs, past, ahead, expected, gas, timeZone, loadedAt, mayWrite } = loaderData
  const ledger = past?.ledger ?? []
  const show = useShow()
  const rate = expected && past ? leakRateOf(jobs, expected.massMg, loadedAt) : undefined
  const workingLink = expectedChargeLink(system)
  useRefresh(({ kind }) => kind === 'job')
  return (
    <>
      <div className="page-head">
        <h1>{system.name}</h1>
        <span className="quiet">
          {system.customer}, {system.site}
        </span>
        {system.refrigerant && <span className="tag tag-copper">{system.refrigerant}</span>}
        {ahead && <NotSent />}
        {mayWrite && (
          <div className="actions">
            <Link className="btn btn-outline-secondary" to={`/labels?what=systems&id=${system.systemId}`}>
              Label
            </Link>
            <Link className="btn btn-primary" to={`/jobs/new?system=${system.systemId}`}>
              New job on it
            </Link>
            <Link className="btn btn-outline-secondary" to="change">
              Change its data
            </Link>
          </div>
        )}
      </div>
      <div className="two-columns">
        <div className="stack">
          <section className="sheet">
            <h2>Jobs</h2>
            {jobs.length === 0 && past && <p className="mb-0 quiet">No job on it yet.</p>}
            {!past && <p className="mb-0 quiet">Those in hand; the server has the list of all of them.</p>}
            <ul className="due-list">
              {jobs.map((job) => (
                <li key={job.jobId}>
                  <Link to={`/jobs/${job.jobId}`}>
                    <span>
                      <strong>{jobNumber(job.number)}</strong> {job.title}{' '}
                      <span className="quiet">
                        {day(job.lastAt, timeZone)}, {inSentence(JOB_STATUS_WORDS[job.status])}
                      </span>
                    </span>
                    <span className="digits">
                      out {show('weight', job.recoveredMg)} · in {show('weight', job.chargedMg)}
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
          {ledger.length > 1 && (
            <section className="sheet stack">
              <h2 className="mb-0">Its charge over the years</h2>
              <HeldOver
                of={system.systemId}
                name={system.name}
                movements={ledger}
                balanceMg={system.balanceMg}
                loadedAt={loadedAt}
                timeZone={timeZone}
                {...(expected && { full: { massMg: expected.massMg, name: 'should be in it' } })}
              />
              <Lost rate={rate} />
            </section>
          )}
          <section className="sheet">
            <h2>Ledger</h2>
            {past ? (
              <MovementTable movements={ledger} timeZone={timeZone} seenFrom={system.systemId} />
            ) : (
              <p className="mb-0 quiet">Every gram that went in or out: the server has the list.</p>
            )}
          </section>
        </div>
        <div className="stack">
          <section className="sheet">
            <div className="quiet">Should be in it</div>
            <div className="hero">{expected ? show('weight', expected.massMg) : 'not known'}</div>
            {expected && expected.unknown.length > 0 && (
              <div className="field-error">
                Without {expected.unknown.join(' and ')}: what they hold cannot be computed for this gas.
              </div>
            )}
            {expected && (
              <div className="quiet">
                give or take {show('weight', 2 * expected.sigmaMg)}.{' '}
                {workingLink && <Link to={workingLink}>How it comes about</Link>}
              </div>
            )}
            <p className="mb-0 mt-1">
              By the books:{' '}
              {system.balanceMg === 0 ? (
                'nothing booked'
              ) : (
                <strong>{show('weight', system.balanceMg)}</strong>
              )}
            </p>
          </section>
          <section className="sheet">
            <h2>Plate</h2>
            <dl className="facts">
              <Fact name="Charge on the plate">
                {system.plateMg === null ? 'not known' : show('weight', system.plateMg)}
              </Fact>
              {system.panelTotalMg !== null && (
                <Fact name="Total in the panel">{show('weight', system.panelTotalMg)}</Fact>
              )}
              <Fact name="Refrigerant">
                {system.refrigerant ?? 'not known'}
                {gas && ` (${gas.safetyClass}, GWP ${Math.round(gas.gwp)})`}
              </Fact>
              {gas && expected && (
                <Fact name="CO₂ equivalent">
                  {co2EquivalentT(expected.massMg / MG_PER_KG, gas.gwp).toFixed(2)} t
                </Fact>
              )}
              <Fact name="Trade">{TRADE_WORDS[system.trade]}</Fact>
              <Fact name="Metering device">{METERING_WORDS[system.metering]}</Fact>
              {system.subcoolingTargetK !== null && (
                <Fact name="Subcooling">{show('difference', system.subcoolingTargetK)}</Fact>
              )}
              {system.vin && (
                <Fact name="VIN">
                  {system.vin}
                  {readVin(system.vin).kind === 'unchecked' && (
                    <span className="field-error">
                      {' '}
                      its check digit does not fit: read it again. Outside North America not every maker uses
                      one.
                    </span>
                  )}
                </Fact>
              )}
              {system.drive && <Fact name="Driven by">{DRIVE_WORDS[system.drive]}</Fact>}
              {system.registration && <Fact name="Registration">{system.registration}</Fact>}
              {system.compressor && <Fact name="Compressor">{system.compressor}</Fact>}
              <Fact name="Oil">{system.oilType || 'not noted'}</Fact>
              {system.maxTestPressurePa !== null && (
                <Fact name="Highest test pressure">{show('pressure', system.maxTestPressurePa)}</Fact>
              )}
              {system.plateText && <Fact name="As printed">{system.plateText}</Fact>}
              <Fact name="Height above the sea">{show('height', system.altitudeM)}</Fact>
            </dl>
            {past?.retrofits.map((change) => (
              <p key={change.jobId} className="mb-0 mt-2">
                <Link to={`/jobs/${change.jobId}`}>Job {change.number}</Link> changed it from{' '}
                {change.fromGas ?? 'a gas that nobody named'} to {change.toGas} on {day(change.at, timeZone)}.
              </p>
            ))}
            {expected && expected.parts.length > 1 && (
              <ul className="mt-2 mb-0">
                {expected.parts.map((part, i) => (
                  <li key={i}>
                    {part.what === 'plate' ? 'Plate' : part.name || part.what}: {show('weight', part.massMg)}
                  </li>
                ))}
              </ul>
            )}
          </section>
        </div>
      </div>
    </>
  )
}

/** What was added beyond what was taken out, as shares of the full charge. */
function Lost({ rate }: { rate: ReturnType<typeof leakRateOf> }) {
  const show = useShow()
  if (!rate) return <p className="mb-0 quiet">No closed job has put in more than it took out.</p>
  const { rolling, annualised, addedInYearKg, overDays } = rate
  return (
    <p className="mb-0">
      In the last 365 days <strong>{show('weight', addedInYearKg * MG_PER_KG)}</strong> went in beyond what
      came out: <strong>{(100 * rolling).toFixed(0)} %</strong> of its charge.
      {annualised !== undefined &&
        ` The last addition, over the ${overDays} days before it, is ${(100 * annualised).toFixed(0)} % a year.`}{' '}
      <span className="quiet">As 40 CFR 84.102 reckons; check the text in force where you work.</span>
    </p>
  )
}
