import { useCallback, useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import { nextStep, openTransfer, runningProgramme, type Stage, judgingContext } from '#core/tape'
import { idOf } from '~/base/form/ids.server'
import { openPage } from '~/device/page/page'
import { LiveSamples } from '~/device/live/live-context'
import { signedIn } from '~/base/session/signed-in.server'
import { serverNow } from '~/tape/device'
import { useTape } from '~/job/tape/use-tape'
import { STAGE_OF_NEXT } from '~/words/en'
import '~/styles/job.scss'
import '~/styles/verify.scss'
import '~/styles/bay.scss'
import '~/styles/face.scss'
import type { Route } from './+types/job'
import { JobHead } from '~/job/head/head'
import { JobContext } from '~/job/field/job-context'
import type { JobCylinder, JobData } from '~/job-data/data'
import { loadJob } from '~/job-data/load.server'
import { MassStrip } from '~/job/head/mass-strip'
import { WeighedInDoubt } from '~/job/kit/weighed-in-doubt'
import { goingOn, Parked } from '~/job/head/parked'
import { NextLine } from '~/job/head/next-line'
import { LiveBoard } from '~/job/live/board'
import { RigCards } from '~/job/live/rig-card'
import { OnSite } from '~/job/field/on-site'
import { AgainstTheBooks } from '~/job/tape/against'
import { RefusedEntries } from '~/job/tape/refused'
import { RunSheet } from '~/job/head/run-sheet'
import { VehicleBay } from '~/job/bay/bay'
import { StagePanel } from '~/job/stages/panel'
import { StripChart } from '~/job/chart/strip-chart'
import { TapeList } from '~/job/tape/tape-list'
import { usePublishedClocks } from '~/job/tape/use-published-clocks'
import { useReferenceData } from '~/job/tape/use-reference-data'
import { jobNumber } from '~/base/ui/job-number'

export function loader({ params, context }: Route.LoaderArgs) {
  return loadJob(signedIn(context), idOf(params.jobId))
}

export const clientLoader = openPage<JobData, Route.LoaderArgs['params']>(() =>
  import('~/pages/jobs/job-from-device').then((each) => each.job),
)

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `${jobNumber(loaderData.number)} · Keg` : 'Keg' }]
}

/** One job: its run sheet, the stage in hand, and its tape. */
export default function Job({ loaderData: data }: Route.ComponentProps) {
  const tape = useTape(data.jobId, data)
  const { state } = tape
  // One that waits opens where it stopped.
  const [stage, setStage] = useState<Stage>(
    () => STAGE_OF_NEXT[nextStep(goingOn(state), judgingContext(data, state))],
  )
  const [whole, setWhole] = useState(false)
  const [learned, setLearned] = useState<JobCylinder[]>([])
  useReferenceData(tape.confirmed)

  const cylinders = useMemo(
    () => new Map([...learned, ...data.cylinders].map((c) => [c.cylinderId, c])),
    [learned, data.cylinders],
  )
  const learn = useCallback((cylinder: JobCylinder) => setLearned((known) => [...known, cylinder]), [])
  usePublishedClocks(data, state)
  const finished = state.status === 'closed' || state.status === 'cancelled'
  const job = {
    data,
    state,
    note: tape.note,
    closed: finished || !data.mayWrite,
    cylinderOf: (cylinderId: string) => cylinders.get(cylinderId),
    learn,
    openStage: setStage,
    wholeJob: useCallback(() => setWhole(true), []),
  }
  const now = useCallback(() => serverNow({ clocks: state.clocks }), [state.clocks])
  const transfer = openTransfer(state)
  // The minutes when gas moves: on a phone the scale face has the screen for itself.
  const inHand =
    transfer !== undefined &&
    // A station weighs and shuts by itself: its programme has the screen.
    runningProgramme(state) === undefined &&
    !whole &&
    stage === (transfer.use === 'recover' ? 'recover' : 'charge')
  return (
    <OnSite altitudeM={data.system?.altitudeM}>
      <JobContext value={job}>
        <LiveSamples sources={data.live} past={`/jobs/${data.jobId}/samples`} now={now}>
          <div className={inHand ? 'job-page in-hand' : 'job-page'}>
            <JobHead />
            <WeighedInDoubt />
            {transfer && !inHand && !runningProgramme(state) && (
              <Button
                className="face-back btn-big"
                onClick={() => {
                  setWhole(false)
                  setStage(transfer.use === 'recover' ? 'recover' : 'charge')
                }}
              >
                Back to the scale
              </Button>
            )}
            <MassStrip />
            <div className="job">
              <RunSheet stage={stage} open={setStage} />
              <div className="stack">
                <RefusedEntries />
                <AgainstTheBooks />
                {state.status === 'waiting' ? <Parked /> : <NextLine stage={stage} open={setStage} />}
                <VehicleBay />
                <LiveBoard />
                <StagePanel stage={stage} />
              </div>
              <div className="stack record">
                <StripChart />
                <RigCards />
                <TapeList waiting={tape.waiting} older={tape.older} loadOlder={tape.loadOlder} />
              </div>
            </div>
          </div>
        </LiveSamples>
      </JobContext>
    </OnSite>
  )
}
