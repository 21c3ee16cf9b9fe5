import { useState } from 'react'
import { Link, useLocation, useNavigationType } from 'react-router'
import { signedIn } from '~/session/signed-in.server'
import type { Route } from './+types/tool'
import { Charts } from './charts'
import { loadTool, type ShownInput } from './load.server'
import { Recent, useRemember } from './recent'
import { Figures, Hero, Notes, Tables, Working } from './result'
import { ToolForm } from './tool-form'
import { UseInJob } from './use-in-job'

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `${loaderData.tool.title} · Slide rule · Keg` : 'Keg' }]
}

export async function loader(args: Route.LoaderArgs) {
  return { ...(await loadTool(args)), person: signedIn(args.context).person.userId }
}

/** One tool: what goes in, the result first and big, then how it was worked out. */
export default function ToolPage({ loaderData }: Route.ComponentProps) {
  const { tool, inputs, query, missing, example, outcome, jobs, person } = loaderData
  const location = useLocation()
  // The form keeps what is being typed; it begins anew only when somebody comes from elsewhere.
  const [formOf, setFormOf] = useState(location.key)
  const replaced = useNavigationType() === 'REPLACE'
  const own = replaced && (location.state as { own?: boolean } | null)?.own === true
  if (!own && location.key !== formOf) setFormOf(location.key)
  useRemember(`${person} ${tool.name}`, query, outcome?.hero.text)

  return (
    <div className="tool">
      <div className="page-head tool-head">
        <h1>{tool.title}</h1>
        <span className="quiet">{tool.question}</span>
        <div className="actions no-print">
          <Link className="btn btn-outline-secondary" to="/slide-rule">
            All tools
          </Link>
          {outcome && (
            <button type="button" className="btn btn-outline-secondary" onClick={() => window.print()}>
              Print
            </button>
          )}
        </div>
      </div>
      <p className="print-only">{givenOf(inputs).join(' · ')}</p>
      <div className="tool-answer">
        {outcome ? (
          <Hero outcome={outcome} />
        ) : (
          <div className="empty">
            {missing.length > 0 ? (
              <p className="mb-0">Still needed: {missing.join(', ').toLowerCase()}.</p>
            ) : query !== '' ? (
              <p className="mb-0">No result with these: look at the sentences beside the fields.</p>
            ) : (
              <p className="mb-0">
                Fill in what you know, and the answer stands here.{' '}
                <Link to={example}>Show me an example</Link>
              </p>
            )}
          </div>
        )}
      </div>
      <ToolForm key={formOf} name={tool.name} inputs={inputs} answer={outcome?.hero} />
      <div className="tool-rest stack">
        {outcome && (
          <>
            <Figures figures={outcome.figures} />
            <Charts outcome={outcome} />
            <Tables tables={outcome.tables ?? []} />
            <Working steps={outcome.working} />
            <Notes outcome={outcome} />
            <UseInJob outcome={outcome} jobs={jobs} />
          </>
        )}
        <Recent of={`${person} ${tool.name}`} tool={tool.name} now={query} />
      </div>
    </div>
  )
}

/** What was put in, for the printed sheet. */
function givenOf(inputs: ShownInput[]): string[] {
  const fields = inputs.flatMap((input) => (input.rows ? input.lines.slice(0, -1).flat() : [input.field]))
  return fields.flatMap(({ label, typed, usual, options }) => {
    const words = options?.find(([value]) => value === typed)?.[1] ?? (typed || usual)
    return words ? [`${label}: ${words}`] : []
  })
}
