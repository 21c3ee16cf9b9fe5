import { data, Link, redirect } from 'react-router'
import { holdsGas, type KitFacts, weighs } from '#core/kit'
import {
  type ActRow,
  actsOf,
  cylindersOfGas,
  doubtsOfScale,
  hoursRun,
  inShop,
  lockedKit,
  movements,
  onePiece,
  takenFromBottle,
  usesOf,
  VoucherError,
} from '#db'
import { found, idOf } from '~/base/form/ids.server'
import { refuse, typedIn } from '~/base/form/read.server'
import { factsOf, factWords } from '~/kit/fields'
import { KitIcon } from '~/kit/icon'
import { MovementTable } from '~/ledger/movement-table'
import { useRefresh } from '~/device/news/changes'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { now, todayIn } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { signedIn, writer } from '~/base/session/signed-in.server'
import { Fact } from '~/base/ui/fact'
import { NotSent } from '~/base/ui/not-sent'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { day, plainDay } from '~/base/ui/time'
import { ACT_WORDS, KIT_KIND_WORDS, KIT_STATE_WORDS } from '~/words/en'
import type { Route } from './+types/piece'
import { ActForms } from '~/pages/kit/act-forms'
import { readAct, strikeIt, writeItsAct } from '~/pages/kit/acts.server'
import { Doubts } from '~/pages/kit/doubts'
import { HoursRun, InIt, LeftInIt } from '~/pages/kit/in-it'
import type { PieceData } from '~/pages/kit/piece-data'
import { WhatWasDone } from '~/pages/kit/what-was-done'

const SHOWN = 50

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `${loaderData.piece.label} · Keg` : 'Keg' }]
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const kitId = idOf(params.kitId)
  return inShop(shop.shopId, async (tx) => {
    const piece = found(await onePiece(tx, kitId), 'kit')
    const [acts, doubts, uses, ledger, cylinders, ran] = await Promise.all([
      actsOf(tx, kitId),
      weighs(piece.kind) ? doubtsOfScale(tx, kitId) : [],
      usesOf(tx, kitId, SHOWN),
      holdsGas(piece.kind) ? movements(tx, { kitId }, SHOWN) : [],
      holdsGas(piece.kind) && piece.lastGas ? cylindersOfGas(tx, piece.lastGas) : [],
      piece.kind === 'pump' ? hoursRun(tx, kitId) : null,
    ])
    const level = piece.kind === 'bottle' ? levelOf(acts, piece.facts) : undefined
    const bottle = level && { ...level, takenMl: await takenFromBottle(tx, kitId, level.since) }
    return {
      piece,
      record: { acts, doubts, uses, ledger, cylinders, ran, bottle },
      ahead: false,
      today: todayIn(shop.timeZone),
      timeZone: shop.timeZone,
      mayWrite: person.role !== 'trainee',
    } satisfies PieceData
  })
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const kitId = idOf(params.kitId)
  const typed = await typedIn(request)
  const reading = { units: preferencesOf(person.preferences).units }
  const at = now()
  try {
    const refused = await inShop(shop.shopId, async (tx) => {
      // What is moved out of it goes into a cylinder: those are locked first, and the kit with them.
      if (typed.what !== 'purged') await lockedKit(tx, kitId)
      const piece = found(await onePiece(tx, kitId), 'kit')
      if (typed.what === 'strike') return strikeIt(tx, kitId, typed, { now: at, userId: person.userId })
      const { timeZone } = shop
      const read = readAct(typed, piece, { reading, timeZone, now: at, today: todayIn(timeZone) })
      if (read.refused) return read.refused
      await writeItsAct(tx, kitId, read.value, { now: at, userId: person.userId })
      return undefined
    })
    if (refused) return data(refused, { status: 400 })
  } catch (error) {
    if (!(error instanceof VoucherError)) throw error
    return data(refuse(typed, { purged: error.message }), { status: 400 })
  }
  return redirect(`/kit/${kitId}`)
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

export const clientLoader = openPage<PieceData, Route.LoaderArgs['params']>(() =>
  import('~/pages/kit/from-device').then((each) => each.piece),
)

/** One piece of kit: what it can tell, what is due, what it holds, and everything that was done with it. */
export default function Piece({ loaderData, actionData }: Route.ComponentProps) {
  const { piece, record, ahead, today, timeZone, mayWrite } = loaderData
  const reading = useReadersUnits()
  const show = useShow()
  useRefresh(({ kind }) => kind !== 'alarm')
  const known = factsOf(piece.kind).filter(([name]) => piece.facts[name] !== undefined)
  const isDue = piece.dueOn !== null && piece.dueOn <= today
  return (
    <>
      <div className="page-head">
        <h1 className="with-icon">
          <KitIcon kind={piece.kind} size={26} /> {piece.label}
        </h1>
        <span className="tag tag-copper">{KIT_KIND_WORDS[piece.kind]}</span>
        {piece.state !== 'in-use' && <span className="tag">{KIT_STATE_WORDS[piece.state]}</span>}
        {piece.failedAt && <span className="tag tag-limit">last check failed</span>}
        {ahead && <NotSent />}
        <div className="actions">
          <Link className="btn btn-outline-secondary" to={`/labels?what=kit&id=${piece.kitId}`}>
            Label
          </Link>
          {record && mayWrite && (
            <Link className="btn btn-outline-secondary" to="change">
              Change its data
            </Link>
          )}
        </div>
      </div>
      <div className="two-columns">
        <div className="stack">
          {piece.failedAt && weighs(piece.kind) && (
            <p className="verdict verdict-bad mb-0" role="status">
              It failed its check on {day(piece.failedAt, timeZone)}. Have it set right, and check it again;
              until then weigh on another scale.
            </p>
          )}
          {record && (
            <Doubts doubts={record.doubts} timeZone={timeZone} mayWrite={mayWrite} refused={actionData} />
          )}
          {holdsGas(piece.kind) && <InIt piece={piece} />}
          {record?.bottle && <LeftInIt bottle={record.bottle} timeZone={timeZone} />}
          {record && record.ran !== null && <HoursRun hours={record.ran} goodFor={piece.facts.oilHours} />}
          {record ? (
            <WhatWasDone
              acts={record.acts}
              facts={piece.facts}
              timeZone={timeZone}
              mayWrite={mayWrite}
              refused={actionData}
            />
          ) : (
            <section className="sheet">
              <h2>What was done</h2>
              <p className="mb-0 quiet">
                Checks, and the jobs it was used in: the server has the list. To note something of it, wait
                for the connection.
              </p>
            </section>
          )}
          {record && record.ledger.length > 0 && (
            <section className="sheet">
              <h2>Ledger</h2>
              <MovementTable movements={record.ledger} timeZone={timeZone} seenFrom={piece.kitId} />
            </section>
          )}
        </div>
        <div className="stack">
          {piece.dueOn && piece.dueWhat && (
            <section className={`sheet ${isDue ? 'due-now' : ''}`}>
              <h2>{ACT_WORDS[piece.dueWhat].due}</h2>
              <p className="mb-1">
                {isDue ? 'Due since' : 'Due on'} <strong>{plainDay(piece.dueOn)}</strong>.
              </p>
              {/* Whoever notes it has it beside the form. */}
              {!(mayWrite && isDue) && (
                <p className="mb-0 quiet">
                  {ACT_WORDS[piece.dueWhat].how[0]}
                  <br />
                  {ACT_WORDS[piece.dueWhat].how[1]}
                </p>
              )}
            </section>
          )}
          <section className="sheet">
            <h2>What it can tell, and do</h2>
            <dl className="facts">
              <Fact name="Kept at">{piece.keepsAt || 'not noted'}</Fact>
              {known.map(([name, field]) => (
                <Fact key={name} name={field.label}>
                  {field.type === 'cylinder' ? (
                    <Link to={`/cylinders/${piece.facts[name] as string}`}>its tank</Link>
                  ) : field.type === 'text' && field.lines ? (
                    <ol className="mb-0">
                      {String(piece.facts[name])
                        .split('\n')
                        .filter((line) => line.trim())
                        .map((line, i) => (
                          <li key={i}>{line}</li>
                        ))}
                    </ol>
                  ) : (
                    factWords(name, piece.facts[name], reading)
                  )}
                </Fact>
              ))}
            </dl>
          </section>
          {record && mayWrite && piece.state !== 'retired' && (
            <ActForms
              piece={piece}
              cylinders={record.cylinders}
              refused={actionData}
              due={isDue ? piece.dueWhat : null}
            />
          )}
          {record && record.uses.length > 0 && (
            <section className="sheet">
              <h2>Used last</h2>
              <ul className="plain-list">
                {record.uses.slice(0, 10).map((use, i) => (
                  <li key={i}>
                    <Link to={`/jobs/${use.jobId}`}>Job {use.number}</Link>{' '}
                    <span className="digits">{show('weight', use.massMg)}</span> {use.refrigerant},{' '}
                    {day(use.at, timeZone)}
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
      </div>
    </>
  )
}

/** What a bottle held when it was looked at last, or full. */
function levelOf(
  acts: readonly ActRow[],
  { bottleMl }: KitFacts,
): { ml: number | undefined; since: Date | null } {
  const last = acts.find((act) => act.what === 'bottle-level' && act.struck === null)
  return last ? { ml: last.body.ml, since: last.at } : { ml: bottleMl, since: null }
}
