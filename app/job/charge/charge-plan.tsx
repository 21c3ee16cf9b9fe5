import { Button } from 'react-bootstrap'
import { planSources, wayIn } from '#core/charging'
import { tableOf } from '#core/refrigerants'
import { toGoMg } from '#core/tape'
import { draft } from '~/tape/draft'
import { useShow } from '~/base/ui/reader'
import { SOURCE_WORDS, WAY_IN_WORDS } from '~/words/en'
import { useJob } from '../field/job-context'
import { useDrive } from '../field/drive'
import { ByVacuum } from './by-vacuum'
import { GoodEnough } from './good-enough'
import { type OfferedSource, useSources } from '../moving/use-sources'

/** From which cylinders, as what, through which port, how much by pressure alone, and on which scale. */
export function ChargePlan() {
  const { state, data } = useJob()
  const show = useShow()
  const drive = useDrive()
  const { sources, tempK, measured } = useSources()
  const left = toGoMg(state)
  if (!state.refrigerant || !state.target) return null
  const plan = planSources(sources, Math.max(0, left ?? state.target.massMg))
  const first = sources.find((each) => each.cylinderId === plan.takes[0]?.cylinderId)
  // Its own gas that hardly comes out again: it is there, and should be spoken of.
  const idle = sources.filter(
    ({ cylinderId, kind, cylinder }) =>
      kind === 'own-gas' &&
      cylinder.balanceMg > 0 &&
      !plan.takes.some((take) => take.cylinderId === cylinderId) &&
      plan.shortMg > 0,
  )
  const ways = wayIn({
    table: tableOf(state.refrigerant),
    trade: data.system?.trade ?? 'stationary',
    drive: drive ?? 'belt',
    targetMg: state.target.massMg,
    from: first?.cylinder.kind,
  })
  return (
    <section className="stack" aria-label="How it goes in">
      <h3 className="mb-0">How it goes in</h3>
      <ol className="mb-0">
        {plan.takes.map((take) => (
          <SourceLine
            key={take.cylinderId}
            source={sources.find((each) => each.cylinderId === take.cylinderId)!}
            takeMg={take.massMg}
          />
        ))}
      </ol>
      {idle.map(({ cylinder, cylinderId, gives }) => (
        <p key={cylinderId} className="mb-0">
          <strong>{cylinder.label}</strong> holds {show('weight', cylinder.balanceMg)} of this system’s own
          gas, and nearly all of it would stay in there as vapour
          {gives && ` (up to ${show('weight', gives.staysMostMg)})`}: warm the cylinder in water, or leave it
          and top up.
        </p>
      ))}
      {plan.shortMg > 0 && (
        <p className="mb-0 field-error" role="status">
          {plan.takes.length === 0 ? 'No cylinder here can be counted on for it' : 'Still missing'}:{' '}
          {show('weight', plan.shortMg)}. Have virgin gas ready before you begin.
        </p>
      )}
      <p className="mb-0 quiet">
        What a cylinder gives, and what stays in it, is reckoned for {show('temperature', tempK)}
        {!measured && ', an ordinary day: note the ambient to have it for today'}.
      </p>
      <ByVacuum first={first} tempK={tempK} />
      <GoodEnough />
      <details>
        <summary>As what, and where</summary>
        <ul className="mb-0 mt-1">
          {ways.map((way) => (
            <li key={way}>{WAY_IN_WORDS[way]}</li>
          ))}
        </ul>
      </details>
    </section>
  )
}

function SourceLine({ source, takeMg }: { source: OfferedSource; takeMg: number }) {
  const { state, note, closed } = useJob()
  const show = useShow()
  const { cylinder, cylinderId, kind, gives } = source
  const chosen = state.chosen.some((each) => each.use === 'charge' && each.cylinderId === cylinderId)
  const stays =
    gives &&
    (gives.staysLeastMg === gives.staysMostMg
      ? `about ${show('weight', gives.staysMostMg)}`
      : `${show('weight', gives.staysLeastMg)} to ${show('weight', gives.staysMostMg)}`)
  return (
    <li>
      <div className="spread">
        <span>
          <strong>{cylinder.label}</strong>: <strong className="digits">{show('weight', takeMg)}</strong>,{' '}
          <span className="quiet">
            {SOURCE_WORDS[kind]}
            {gives && `; as liquid it gives ${show('weight', gives.leastMg)}, and ${stays} stay in it`}
            {gives?.drawnDown &&
              `; drawn down as vapour by the running system about ${show('weight', gives.drawnDown.staysMg)} stay, in warm water ${show('weight', gives.drawnDown.warmStaysMg)}`}
          </span>
        </span>
        {chosen ? (
          <span className="tag">chosen</span>
        ) : (
          !closed && (
            <Button
              onClick={() => note([draft('cylinder-chosen', { cylinderId, use: 'charge', massMg: takeMg })])}
            >
              Take {cylinder.label}
            </Button>
          )
        )}
      </div>
    </li>
  )
}
