import { Hand } from 'lucide-react'
import { Link } from 'react-router'
import type { RunningProgramme } from '#db'
import { clockTime, duration } from '~/base/ui/time'
import { ASK_WORDS, STEP_WORDS } from '~/words/en'

const SILENT_MS = 60_000

interface AtTheStationsProps {
  programmes: RunningProgramme[]
  loadedAt: number
  timeZone: string
}

/** What each service station is at: those that wait for a hand first. */
export function AtTheStations({ programmes, loadedAt, timeZone }: AtTheStationsProps) {
  return (
    <section className="stack" aria-labelledby="at-the-stations">
      <h2 id="at-the-stations" className="mb-0">
        At the stations
      </h2>
      {programmes.map((each) => (
        <StationCard key={each.programmeId} programme={each} loadedAt={loadedAt} timeZone={timeZone} />
      ))}
    </section>
  )
}

function StationCard({
  programme,
  loadedAt,
  timeZone,
}: {
  programme: RunningProgramme
} & Omit<AtTheStationsProps, 'programmes'>) {
  const { jobId, number, title, refrigerant, station, steps, step, stepAt, ask, askAt, heardAt } = programme
  const nth = steps.findIndex((each) => each.step === step)
  const silentMs = heardAt ? loadedAt - new Date(heardAt).getTime() : 0
  return (
    <Link to={`/jobs/${jobId}`} className={ask ? 'job-card running station-waits' : 'job-card running'}>
      <span className="spread">
        <span className="title">{title || `Job ${number}`}</span>
        <span className="row-of">
          {refrigerant && <span className="tag tag-copper">{refrigerant}</span>}
          <span className="tag">{station}</span>
        </span>
      </span>
      {ask ? (
        <strong className="says with-icon">
          <Hand size={20} aria-hidden className="icon" /> {ASK_WORDS[ask].what}
        </strong>
      ) : (
        <strong className="says">{step ? STEP_WORDS[step] : 'Begins'}</strong>
      )}
      {nth >= 0 && (
        <span className="run-bar" role="img" aria-label={`Step ${nth + 1} of ${steps.length}`}>
          <span style={{ width: `${((100 * (nth + 0.5)) / steps.length).toFixed(1)}%` }} />
        </span>
      )}
      <span className="quiet">
        {[
          nth >= 0 && `step ${nth + 1} of ${steps.length}`,
          ask && askAt && `waits since ${clockTime(new Date(askAt), timeZone)}`,
          !ask && stepAt && `since ${clockTime(new Date(stepAt), timeZone)}`,
          silentMs > SILENT_MS && `not heard for ${duration(silentMs / 1_000)}`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </span>
    </Link>
  )
}
