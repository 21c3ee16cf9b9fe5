import { data, Link, redirect } from 'react-router'
import { judgePreparation } from '#core/cylinders'
import { divisionMg } from '#core/scales'
import { plainDateDue } from '~/cylinders/due'
import { CylinderPicture } from '~/cylinders/picture'
import { seen } from '~/cylinders/condition'
import { CylinderTags } from '~/cylinders/tags'
import {
  cylinderOf,
  inShop,
  jobsWaitingFor,
  lastJudgement,
  lastPreparation,
  movements,
  VoucherError,
} from '#db'
import { found, idOf } from '~/base/form/ids.server'
import { HeldOver } from '~/ledger/held-over'
import { MovementTable } from '~/ledger/movement-table'
import { useRefresh } from '~/device/news/changes'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { now, todayIn } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { signedIn, writer } from '~/base/session/signed-in.server'
import { fillLink } from '~/slide-rule/links'
import { REWEIGH_WORDS, inSentence } from '~/words/en'
import { Fact } from '~/base/ui/fact'
import { jobNumber } from '~/base/ui/job-number'
import { NotSent } from '~/base/ui/not-sent'
import { useShow } from '~/base/ui/reader'
import { day, plainDay } from '~/base/ui/time'
import { VerdictCard } from '~/words/verdict/verdict-card'
import { CONDITION_WORDS, CYLINDER_KIND_WORDS, FILL_RULE_WORDS } from '~/words/en'
import type { Route } from './+types/cylinder'
import type { CylinderData } from '~/pages/cylinders/cylinder-data'
import { bookVoucher, readVoucher, WeightAsked } from '~/pages/cylinders/vouchers.server'
import { VoucherForms } from '~/pages/cylinders/voucher-forms'

const SHOWN = 200

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `${loaderData.cylinder.label} · Keg` : 'Keg' }]
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const cylinderId = idOf(params.cylinderId)
  const today = todayIn(shop.timeZone)
  return inShop(shop.shopId, async (tx) => {
    const cylinder = found(await cylinderOf(tx, cylinderId), 'cylinder')
    const [ledger, jobs, judged, prepared] = await Promise.all([
      movements(tx, { cylinderId }, SHOWN),
      jobsWaitingFor(tx, cylinderId),
      lastJudgement(tx, cylinderId),
      lastPreparation(tx, cylinderId),
    ])
    return {
      cylinder: seen(cylinder, shop.fillMarginPct, today),
      dueOn: plainDateDue(cylinder, today),
      ledger,
      jobs,
      judged: judged ?? null,
      prepared: prepared ?? null,
      ahead: false,
      timeZone: shop.timeZone,
      loadedAt: now().getTime(),
      mayWrite: person.role !== 'trainee',
    } satisfies CylinderData
  })
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const cylinderId = idOf(params.cylinderId)
  const read = await readVoucher(request, { units: preferencesOf(person.preferences).units })
  if (read.refused) return data(read.refused, { status: 400 })
  try {
    await inShop(shop.shopId, async (tx) => {
      const cylinder = found(await cylinderOf(tx, cylinderId), 'cylinder')
      await bookVoucher(tx, read.value, cylinder, { at: now(), now: now(), userId: person.userId })
    })
  } catch (error) {
    if (error instanceof WeightAsked) {
      const { asked, weightMg } = error
      const errors = { [read.value.kind]: REWEIGH_WORDS[asked.code] }
      return data({ ...read.again, errors, asked: { ...asked, weightMg } }, { status: 400 })
    }
    if (!(error instanceof VoucherError)) throw error
    return data({ ...read.again, errors: { [read.value.kind]: error.message } }, { status: 400 })
  }
  // A fresh page has a fresh id: the next voucher is another one.
  return redirect(`/cylinders/${cylinderId}`)
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

export const clientLoader = openPage<CylinderData, Route.LoaderArgs['params']>(() =>
  import('~/pages/cylinders/from-device').then((each) => each.cylinder),
)

/** One cylinder: its stamps, what is in it, and every gram that went in or out. */
export default function Cylinder({ loaderData, actionData }: Route.ComponentProps) {
  const { cylinder, dueOn, ledger, jobs, judged, prepared, ahead, timeZone, loadedAt, mayWrite } = loaderData
  const show = useShow()
  const limitLink = fillLink(cylinder)
  useRefresh(({ kind }) => kind !== 'alarm')
  return (
    <>
      <div className="page-head">
        <h1>{cylinder.label}</h1>
        <span className="tag tag-copper">{cylinder.refrigerant ?? 'no gas yet'}</span>
        <CylinderTags tags={cylinder.tags} />
        {cylinder.retired && <span className="tag">retired</span>}
        {ahead && <NotSent />}
        <div className="actions">
          <Link className="btn btn-outline-secondary" to={`/labels?what=cylinders&id=${cylinder.cylinderId}`}>
            Label
          </Link>
          {!cylinder.retired && cylinder.kind !== 'one-way' && (
            <Link className="btn btn-outline-secondary" to="decant">
              Fill it from others
            </Link>
          )}
          {mayWrite && !cylinder.retired && (
            <Link className="btn btn-outline-secondary" to="change">
              Change its data
            </Link>
          )}
        </div>
      </div>
      <div className="two-columns">
        <div className="stack">
          <section className="sheet row-of" style={{ alignItems: 'center', gap: '2rem' }}>
            <CylinderPicture cylinder={cylinder} size={190} />
            <div style={{ flex: '1 1 16rem' }}>
              <div className="quiet">In it, by the books</div>
              <div className="hero">{show('weight', cylinder.balanceMg)}</div>
              <p className="mb-2">
                On the scale it should show{' '}
                <strong className="digits">{show('weight', cylinder.tareMg + cylinder.balanceMg)}</strong>
                {cylinder.grossLimitMg !== undefined && (
                  <>
                    , never past <strong className="digits">{show('weight', cylinder.grossLimitMg)}</strong>
                    {cylinder.governs && (
                      <span className="quiet"> ({FILL_RULE_WORDS[cylinder.governs]})</span>
                    )}
                  </>
                )}
                . {limitLink && <Link to={limitLink}>How the limit comes about</Link>}
              </p>
              {cylinder.offMg !== 0 && (
                <p className="mb-1 field-error">
                  The scale saw {show('weight', Math.abs(cylinder.offMg))}{' '}
                  {cylinder.offMg > 0 ? 'more' : 'less'} in it
                  {cylinder.weighedAt && ` on ${day(cylinder.weighedAt, timeZone)}`}. Room is reckoned from
                  the fuller of the two until it is weighed again, or somebody says why.
                </p>
              )}
              {jobs.map((job) => (
                <p key={job.jobId} className="mb-1">
                  <Link to={`/jobs/${job.jobId}`}>
                    {jobNumber(job.number)} {job.title}
                  </Link>{' '}
                  counts on it{job.roomMg > 0 && `: room for ${show('weight', job.roomMg)} is kept free`}.
                </p>
              ))}
            </div>
          </section>
          {ledger && ledger.length > 1 && (
            <section className="sheet stack">
              <h2 className="mb-0">What it held</h2>
              <HeldOver
                of={cylinder.cylinderId}
                name={cylinder.label}
                movements={ledger}
                balanceMg={cylinder.balanceMg}
                loadedAt={loadedAt}
                timeZone={timeZone}
                {...(cylinder.grossLimitMg !== undefined && {
                  full: { massMg: cylinder.grossLimitMg - cylinder.tareMg, name: 'its limit' },
                })}
              />
            </section>
          )}
          <section className="sheet">
            <h2>Ledger</h2>
            {ledger ? (
              <MovementTable movements={ledger} timeZone={timeZone} seenFrom={cylinder.cylinderId} />
            ) : (
              <p className="mb-0 quiet">Every gram that went in or out: the server has the list.</p>
            )}
            {ledger?.length === SHOWN && (
              <Link to={`/ledger?cylinder=${cylinder.cylinderId}`}>All of it</Link>
            )}
          </section>
        </div>
        <div className="stack">
          <section className="sheet">
            <h2>Stamps</h2>
            <dl className="facts">
              <Fact name="Kind">{CYLINDER_KIND_WORDS[cylinder.kind]}</Fact>
              <Fact name="Tare (TW)">{show('weight', cylinder.tareMg)}</Fact>
              <Fact name="Water capacity (WC)">
                {cylinder.waterCapacityMg === null ? 'not known' : show('weight', cylinder.waterCapacityMg)}
              </Fact>
              <Fact name="Service pressure">
                {cylinder.servicePressurePa === null
                  ? 'not known'
                  : show('pressure', cylinder.servicePressurePa)}
              </Fact>
              <Fact name="Pressure test">
                {cylinder.testedOn
                  ? `${plainDay(cylinder.testedOn)}, holds to ${dueOn ? plainDay(dueOn) : '–'}`
                  : 'not known'}
              </Fact>
              <Fact name="Flammable gas">{cylinder.flammableOk ? 'fit for it' : 'not fit for it'}</Fact>
              <Fact name="What it holds is">{CONDITION_WORDS[cylinder.condition]}</Fact>
              {judged && (
                <Fact name="Judged">
                  {inSentence(CONDITION_WORDS[judged.condition])}, {day(judged.at, timeZone)}, {judged.by}:{' '}
                  {judged.text}
                </Fact>
              )}
              {prepared && (
                <Fact name="Prepared">
                  {day(prepared.at, timeZone)}, {prepared.by}:{' '}
                  {prepared.left === 'vacuum' ? 'left in vacuum' : 'broken with vapour of its gas'}
                </Fact>
              )}
              <Fact name="Whose gas">{cylinder.owner ?? "the shop's own"}</Fact>
              <Fact name="Kept at">{cylinder.keepsAt || 'not noted'}</Fact>
            </dl>
          </section>
          {prepared && (
            <VerdictCard
              verdict={judgePreparation({
                stampedMg: cylinder.tareMg,
                weighedMg: prepared.weighedMg,
                divisionMg: divisionMg(null, cylinder.tareMg),
                provedPa: prepared.provedPa,
                pulledPa: prepared.pulledPa,
              })}
            />
          )}
          {mayWrite && !cylinder.retired && <VoucherForms cylinder={cylinder} refused={actionData} />}
        </div>
      </div>
    </>
  )
}
