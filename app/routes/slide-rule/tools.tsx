import { Link } from 'react-router'
import { HOLD_TOOL } from '~/slide-rule/hold/outcome'
import { GROUPS } from '~/slide-rule/tools'
import '~/styles/slide-rule.scss'
import type { Route } from './+types/tools'

/** The group of the one tool whose input is a list. */
const HOLD_AMONG = 'Tight and dry'

export function meta() {
  return [{ title: 'Slide rule · Keg' }]
}

export function loader() {
  return {
    groups: GROUPS.map(([title, tools]) => ({
      title,
      tools: [...tools, ...(title === HOLD_AMONG ? [HOLD_TOOL] : [])].map(({ name, title, question }) => ({
        name,
        title,
        question,
      })),
    })),
  }
}

/** Every calculation on its own, in the order of the work. */
export default function Tools({ loaderData: { groups } }: Route.ComponentProps) {
  return (
    <>
      <div className="page-head">
        <h1>Slide rule</h1>
        <span className="quiet">
          One number at a time, with its working. Every answer has a link of its own.
        </span>
      </div>
      <div className="tool-groups">
        {groups.map(({ title, tools }) => (
          <section key={title}>
            <h2>{title}</h2>
            <ul>
              {tools.map((tool) => (
                <li key={tool.name}>
                  <Link to={tool.name}>
                    <strong>{tool.title}</strong>
                    <span className="quiet">{tool.question}</span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </>
  )
}
