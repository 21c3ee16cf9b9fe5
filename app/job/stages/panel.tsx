import { TriangleAlert } from 'lucide-react'
import type { ComponentType } from 'react'
import { Link } from 'react-router'
import { refrigerant as factsOf } from '#core/refrigerants'
import { type Stage, plateOf } from '#core/tape'
import { cautionsFor, LOCAL_CODES, STAGE_WORDS } from '~/words/en'
import { stageLinks } from '~/slide-rule/links'
import { StageIcon } from '~/base/ui/stage-icon'
import { useJob, useJudging } from '../field/job-context'
import { Charge } from './charge'
import { Close } from './close'
import { Evacuate } from './evacuate'
import { LeakTest } from './leak-test'
import { Oil } from './oil'
import { Prepare } from './prepare'
import { Recover } from './recover'
import { Repair } from './repair'
import { Verify } from './verify'

const PANELS: Record<Stage, ComponentType> = {
  prepare: Prepare,
  recover: Recover,
  repair: Repair,
  'leak-test': LeakTest,
  evacuate: Evacuate,
  oil: Oil,
  charge: Charge,
  verify: Verify,
  close: Close,
}

/** The stage in hand. A new stage adds its panel here and nowhere else. */
export function StagePanel({ stage }: { stage: Stage }) {
  const { state, data } = useJob()
  const Panel = PANELS[stage]
  const links = stageLinks(stage, {
    state,
    reference: useJudging(),
    plate: plateOf(data, state),
    metering: data.system?.metering ?? 'unknown',
  })
  const cautions = cautionsFor(
    stage,
    state.refrigerant ? factsOf(state.refrigerant) : undefined,
    data.system?.trade,
  )
  return (
    <section className="sheet stack stage-panel" aria-label={STAGE_WORDS[stage]}>
      <h2 className="with-icon">
        <StageIcon stage={stage} size={22} /> {STAGE_WORDS[stage]}
      </h2>
      {cautions.length > 0 && (
        <details className="caution-box">
          <summary>
            <TriangleAlert size={18} aria-hidden className="icon" /> Caution: {cautions[0]}
          </summary>
          <ul>
            {cautions.slice(1).map((caution) => (
              <li key={caution}>{caution}</li>
            ))}
            <li>{LOCAL_CODES}</li>
          </ul>
        </details>
      )}
      <Panel key={stage} />
      {links.length > 0 && (
        <nav className="stage-tools" aria-label="Slide rule for this stage">
          <span className="quiet">Slide rule:</span>
          {links.map(({ to, words }) => (
            <Link key={words} to={to}>
              {words}
            </Link>
          ))}
        </nav>
      )}
    </section>
  )
}
