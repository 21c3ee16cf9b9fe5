import { Link } from 'react-router'
import { openPage } from '~/device/page/page'
import '~/styles/slide-rule.scss'
import type { Route } from './+types/tools'
import { toolGroups } from '~/pages/slide-rule/groups'

export function meta() {
  return [{ title: 'Slide rule · Keg' }]
}

export function loader() {
  return { groups: toolGroups() }
}

export const clientLoader = openPage<ReturnType<typeof loader>>(() =>
  import('~/pages/slide-rule/from-device').then((each) => each.tools),
)

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
