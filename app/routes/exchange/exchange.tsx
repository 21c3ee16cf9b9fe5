import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { data, Form, useNavigation } from 'react-router'
import { inShop, KitLabelTakenError, LabelTakenError, shopIsEmpty } from '#db'
import { carryOut, plan, type Plan, type PlannedLine, signature } from '~/exchange/sheet.server'
import { sheetNamed, SHEETS, type SheetName } from '~/exchange/sheets.server'
import { ownText, typedIn } from '~/base/form/read.server'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { now, todayIn } from '~/base/session/clock.server'
import { manager } from '~/base/session/signed-in.server'
import { SelectField } from '~/base/ui/field'
import { WideTable } from '~/base/ui/wide-table'
import type { Route } from './+types/exchange'

export function meta() {
  return [{ title: 'Import and export · Keg' }]
}

export async function loader({ context }: Route.LoaderArgs) {
  const { shop } = manager(context)
  return {
    sheets: Object.entries(SHEETS).map(([name, { title, columns }]) => ({ name, title, columns })),
    empty: await inShop(shop.shopId, shopIsEmpty),
  }
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

/** First what a file would do, then, once somebody has seen that, doing it: all of it or nothing. */
export async function action({ request, context }: Route.ActionArgs) {
  const { shop, person } = manager(context)
  const typed = await typedIn(request)
  const what = sheetNamed(ownText(typed, 'what'))
  if (!what) throw data('This page is out of date: reload it.', { status: 400 })
  const text = ownText(typed, 'text')
  const agreed = ownText(typed, 'agreed')
  const sheet = SHEETS[what]
  const again = { what, text }
  if (text.trim() === '')
    return data({ ...again, wrong: 'Choose a file, or paste its lines below.' }, { status: 400 })
  const at = now()
  const common = { now: at, today: todayIn(shop.timeZone), userId: person.userId }
  if (agreed === '') {
    const planned = await inShop(shop.shopId, (tx) => plan(sheet, text, { tx, ...common }))
    if (planned.wrong) return data({ ...again, wrong: planned.wrong }, { status: 400 })
    return data({ ...again, plan: planned, agreed: signature(planned) })
  }
  const tried = await inShop(shop.shopId, (tx) => carryOut(sheet, text, agreed, { tx, ...common })).catch(
    (error: unknown) => {
      if (error instanceof LabelTakenError || error instanceof KitLabelTakenError) return undefined
      throw error
    },
  )
  if (!tried)
    return data(
      {
        ...again,
        wrong: 'Somebody added one of these a moment ago: nothing was written. Look again what it would do.',
      },
      { status: 409 },
    )
  const { done, plan: found } = tried
  if (done) return data({ what, done: found.counts })
  return data(
    {
      ...again,
      plan: found,
      agreed: signature(found),
      wrong: 'Something changed since you looked: nothing was written. This is what the file would do now.',
    },
    { status: 409 },
  )
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

/** Lists in and out as files, and the whole shop as one archive. */
export default function Exchange({ loaderData: { sheets, empty }, actionData }: Route.ComponentProps) {
  const result = actionData as Result | undefined
  return (
    <>
      <div className="page-head">
        <h1>Import and export</h1>
      </div>
      {result?.done && (
        <Done counts={result.done} title={sheets.find((s) => s.name === result.what)!.title} />
      )}
      {result?.plan && <Planned result={result} />}
      <div className="two-columns">
        <Bring key={result?.done ? 'done' : 'open'} sheets={sheets} result={result} />
        <div className="stack">
          <section className="sheet">
            <h2>Out, and templates</h2>
            <ul className="plain-list">
              {sheets.map(({ name, title }) => (
                <li key={name} className="row-of">
                  <strong style={{ flex: 1 }}>{title}</strong>
                  <a className="btn btn-outline-secondary" href={`/exchange/csv?what=${name}`} download>
                    All as CSV
                  </a>
                  <a
                    className="btn btn-outline-secondary"
                    href={`/exchange/csv?what=${name}&template=on`}
                    download
                  >
                    Template
                  </a>
                </li>
              ))}
            </ul>
          </section>
          <Archive empty={empty} />
        </div>
      </div>
    </>
  )
}

interface Result {
  what: SheetName
  text?: string
  wrong?: string
  plan?: Plan
  agreed?: string
  done?: Plan['counts']
}

type Sheets = Route.ComponentProps['loaderData']['sheets']

/** The file is read here and sent as text, so that the second step has it without choosing it again. */
function Bring({ sheets, result }: { sheets: Sheets; result: Result | undefined }) {
  const busy = useNavigation().state !== 'idle'
  const [text, setText] = useState(result?.text ?? '')
  const [what, setWhat] = useState<string>(result?.what ?? 'cylinders')
  const columns = sheets.find((each) => each.name === what)!.columns
  return (
    <section className="sheet">
      <h2>In, from a CSV file</h2>
      <Form method="post" className="form-column">
        <SelectField
          name="what"
          label="What is in it"
          value={what}
          onChange={setWhat}
          options={sheets.map(({ name, title }): [string, string] => [name, title])}
        />
        <label className="field">
          <span className="form-label">File</span>
          <input
            type="file"
            accept=".csv,text/csv,text/plain"
            className="form-control"
            onChange={(event) => {
              const file = event.target.files?.[0]
              if (file) void file.text().then(setText)
            }}
          />
        </label>
        <label className="field">
          <span className="form-label">or its lines</span>
          <textarea
            name="text"
            className="form-control"
            rows={6}
            value={text}
            onChange={(event) => setText(event.target.value)}
            spellCheck={false}
          />
        </label>
        {result?.wrong && (
          <p className="field-error mb-0" role="alert">
            {result.wrong}
          </p>
        )}
        <div>
          <Button type="submit" className="btn-big" disabled={busy}>
            {busy ? 'Looking …' : 'Look what it would do'}
          </Button>
        </div>
        <details>
          <summary>What stands in which column</summary>
          <dl className="facts">
            {columns.map(({ name, help, example }) => (
              <div key={name}>
                <dt>{name}</dt>
                <dd>
                  {help}
                  {example && <div className="quiet">{example}</div>}
                </dd>
              </div>
            ))}
          </dl>
        </details>
      </Form>
    </section>
  )
}

const WHAT_WORDS: Record<PlannedLine['what'], string> = {
  add: 'added',
  change: 'changed',
  same: 'as it is',
  refuse: 'refused',
}
const SHOWN = 300

function Planned({ result: { what, text, plan: planned, agreed } }: { result: Result }) {
  const busy = useNavigation().state !== 'idle'
  const { lines, counts } = planned!
  const todo = counts.add + counts.change
  // What needs a look comes first.
  const order: PlannedLine['what'][] = ['refuse', 'change', 'add', 'same']
  const shown = order.flatMap((each) => lines.filter((line) => line.what === each)).slice(0, SHOWN)
  return (
    <section className="sheet mb-3" aria-labelledby="planned">
      <h2 id="planned">What the file would do</h2>
      <p className="mb-2">
        {order.map((each) => (
          <span
            key={each}
            className={`tag me-2 ${each === 'refuse' && counts.refuse > 0 ? 'tag-limit' : ''}`}
          >
            {counts[each]} {WHAT_WORDS[each]}
          </span>
        ))}
        Nothing has been written yet.
      </p>
      <WideTable label="What the file would do">
        <thead>
          <tr>
            <th className="num">Line</th>
            <th>Outcome</th>
            <th>Name</th>
            <th>Why, or what changes</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((line) => (
            <tr key={line.line}>
              <td className="num">{line.line}</td>
              <td>
                <span className={line.what === 'refuse' ? 'tag tag-limit' : 'tag'}>
                  {WHAT_WORDS[line.what]}
                </span>
              </td>
              <td>{line.name}</td>
              <td>
                {line.reasons.map((reason) => (
                  <div key={reason}>{reason}</div>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </WideTable>
      {lines.length > shown.length && <p className="quiet">and {lines.length - shown.length} more lines.</p>}
      <Form method="post" className="form-foot">
        <input type="hidden" name="what" value={what} />
        <input type="hidden" name="text" value={text} />
        <input type="hidden" name="agreed" value={agreed} />
        {todo > 0 ? (
          <Button type="submit" className="btn-big" disabled={busy}>
            {busy ? 'Bringing in …' : `Bring in ${todo} ${todo === 1 ? 'line' : 'lines'}`}
          </Button>
        ) : (
          <p className="mb-0">There is nothing to bring in.</p>
        )}
        {todo > 0 && counts.refuse > 0 && (
          <span className="quiet">{counts.refuse} stay out; put them right and bring the file in again.</span>
        )}
      </Form>
    </section>
  )
}

function Done({ counts, title }: { counts: Plan['counts']; title: string }) {
  return (
    <p className="verdict verdict-good" role="status">
      {title}: {counts.add} added, {counts.change} changed, {counts.same} as they were
      {counts.refuse > 0 && `, ${counts.refuse} refused and left out`}.
    </p>
  )
}

function Archive({ empty }: { empty: boolean }) {
  return (
    <section className="sheet">
      <h2>The whole shop</h2>
      <p>
        Everything in one JSON file: customers, cylinders, systems, kit, jobs with their tapes, the ledger. No
        passwords and no sessions. Its shape is described in docs/archive.md.
      </p>
      <a className="btn btn-outline-secondary" href="/exchange/archive" download>
        Take the archive
      </a>
      {empty ? (
        <form
          method="post"
          action="/exchange/archive"
          encType="multipart/form-data"
          className="form-column mt-3"
        >
          <label className="field">
            <span className="form-label">Bring an archive back into this empty shop</span>
            <input
              type="file"
              name="archive"
              accept=".json,application/json"
              className="form-control"
              required
            />
          </label>
          <div>
            <Button type="submit">Bring it back</Button>
          </div>
        </form>
      ) : (
        <p className="quiet mt-2 mb-0">
          An archive is brought back into an empty shop only: this one is not.
        </p>
      )}
    </section>
  )
}
