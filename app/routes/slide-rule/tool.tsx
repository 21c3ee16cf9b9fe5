import { inSentence } from '~/slide-rule/in-sentence'
import { useEffect, useState } from 'react'
import { Link, useLocation, useNavigationType } from 'react-router'
import { openPage, readyHere } from '~/device/page/page'
import '~/styles/slide-rule.scss'
import type { Route } from './+types/tool'
import { Charts } from '~/pages/slide-rule/charts'
import { loadTool } from '~/pages/slide-rule/load.server'
import type { ShownInput, ToolPage } from '~/pages/slide-rule/page'
import { Recent, useRemember } from '~/pages/slide-rule/recent'
import { Figures, Hero, Notes, Tables, Working } from '~/pages/slide-rule/result'
import { ToolForm } from '~/pages/slide-rule/tool-form'
import { UseInJob } from '~/pages/slide-rule/use-in-job'

export function meta({ loaderData }: Route.MetaArgs) {
  const title = loaderData ? `${loaderData.tool.title} · ` : ''
  return [{ title: `${title}Slide rule · Keg` }]
}

export const loader = loadTool

export const clientLoader = openPage<ToolPage, Route.LoaderArgs['params']>(() =>
  import('~/pages/slide-rule/from-device').then((each) => each.tool),
)

/** One tool: what goes in, the result first and big, then how it was worked out. */
export default function ToolPageView({ loaderData: page }: Route.ComponentProps) {
  const { tool, inputs, query, outcome, jobs, person } = page
  const location = useLocation()
  // The form keeps what is being typed; it begins anew only when somebody comes from elsewhere.
  const [formOf, setFormOf] = useState(location.key)
  const replaced = useNavigationType() === 'REPLACE'
  const own = replaced && (location.state as { own?: boolean } | null)?.own === true
  if (!own && location.key !== formOf) setFormOf(location.key)
  const kept = `${person} ${tool.name}`
  useRemember(kept, query, outcome?.hero.text)
  useEffect(() => {
    // The next answer is worked out here, should the signal go.
    readyHere(() => import('~/pages/slide-rule/from-device'))
  }, [])

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
      <div className="tool-answer">{outcome ? <Hero outcome={outcome} /> : <Waiting page={page} />}</div>
      <ToolForm key={formOf} name={tool.name} inputs={inputs} answer={outcome?.hero} />
      <div className="tool-rest stack">
        {outcome && (
          <>
            <Figures figures={outcome.figures} />
            <Charts outcome={outcome} />
            <Tables tables={outcome.tables ?? []} />
            <Working steps={outcome.working} />
            <Notes outcome={outcome} />
            <UseInJob title={tool.title} outcome={outcome} jobs={jobs} />
          </>
        )}
        <Recent of={kept} tool={tool.name} now={query} />
      </div>
    </div>
  )
}

/** What stands where the answer will be. */
function Waiting({ page: { missing, query, example } }: { page: ToolPage }) {
  if (missing.length > 0) return <p className="empty">Still needed: {missing.map(inSentence).join(', ')}.</p>
  if (query !== '')
    return <p className="empty">No result with these: look at the sentences beside the fields.</p>
  return (
    <p className="empty">
      Fill in what you know, and the answer stands here. <Link to={example}>Show me an example</Link>
    </p>
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
