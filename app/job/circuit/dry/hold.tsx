import { wrap } from 'comlink'
import { useEffect, useRef, useState } from 'react'
import { type Hold, ruleOf, vacuumGiven } from '#core/tape'
import { PA_PER_MICRON } from '#core/units'
import { type HoldReading, onCurve, type VacuumGiven, type VacuumJudgement } from '#core/vacuum'
import { useReadersUnits } from '~/base/ui/reader'
import { duration } from '~/base/ui/time'
import { VerdictCard } from '~/words/verdict/verdict-card'
import type { HoldWorker } from '~/workers/hold'
import { Drawn } from '~/base/ui/drawing/drawn'
import type { VacuumInput } from '~/job/chart/vacuum-drawing'
import { useJob, useJudging } from '~/job/field/job-context'
import { useServerNow } from '~/tape/use-server-now'
import { holdReadings, useGaugeLine } from './readings'

const EVERY_MS = 5_000
const loadVacuum = () => import('~/job/chart/vacuum-drawing').then(({ vacuumIn }) => vacuumIn)

/** A hold while it runs: how long still, and what its curve says so far. */
export function HoldRuns({ hold }: { hold: Hold }) {
  const { state } = useJob()
  const { clocks } = state
  const judging = useJudging()
  const now = useServerNow({ clocks })
  const line = useGaugeLine()
  const heldS = now === undefined ? 0 : (now - hold.startedAt) / 1000
  const rule = ruleOf(state, hold)
  const leftS = rule.leastS - heldS
  const readings = holdReadings(hold, line, now ?? hold.startedAt)
  const given = { ...vacuumGiven(state, hold, judging), readings }
  const judgement = useJudgedInWorker(readings.length > 1 ? given : undefined)
  return (
    <>
      <div className="gauge-row" role="timer" aria-label="Vacuum hold">
        <div>
          <div className="quiet">Holding for</div>
          <div className="big">{duration(heldS)}</div>
        </div>
        <div>
          <div className="quiet">{leftS > 0 ? 'Too soon to pass before another' : 'Long enough to pass'}</div>
          <div className="big">{leftS > 0 ? duration(leftS) : 'now'}</div>
        </div>
      </div>
      {judgement && <VerdictCard verdict={judgement.verdict} />}
      {readings.length > 1 && <HoldCurve readings={readings} judgement={judgement} limitPa={rule.limitPa} />}
    </>
  )
}

/** The last hold that ended, drawn with its fitted curve. */
export function HoldDone({ hold }: { hold: Hold }) {
  const { state } = useJob()
  const judging = useJudging()
  const line = useGaugeLine()
  const readings = holdReadings(hold, line, hold.endedAt ?? hold.startedAt)
  const judgement = useJudgedInWorker(
    readings.length > 2 ? { ...vacuumGiven(state, hold, judging), readings } : undefined,
  )
  if (readings.length < 2) return null
  return <HoldCurve readings={readings} judgement={judgement} limitPa={ruleOf(state, hold).limitPa} />
}

/** Away from the page's own thread; what came last stays until the next is there. */
function useJudgedInWorker(given: VacuumGiven | undefined): VacuumJudgement | undefined {
  const [judgement, setJudgement] = useState<VacuumJudgement>()
  const latest = useRef(given)
  const asked = useRef<() => void>(undefined)
  useEffect(() => {
    latest.current = given
  })
  useEffect(() => {
    const worker = new Worker(new URL('../../../workers/hold.ts', import.meta.url), { type: 'module' })
    const { judge } = wrap<HoldWorker>(worker)
    let gone = false
    let busy = false
    const ask = () => {
      if (!latest.current || busy) return
      busy = true
      judge(latest.current)
        .then((found) => {
          if (!gone) setJudgement(found)
        })
        .catch(reportError)
        .finally(() => {
          busy = false
        })
    }
    asked.current = ask
    ask()
    const timer = setInterval(ask, EVERY_MS)
    return () => {
      gone = true
      clearInterval(timer)
      worker.terminate()
    }
  }, [])
  // Something noted by hand is judged at once.
  const count = given?.readings.length ?? 0
  useEffect(() => asked.current?.(), [count])
  return judgement
}

function HoldCurve({
  readings,
  judgement,
  limitPa,
}: {
  readings: HoldReading[]
  judgement: VacuumJudgement | undefined
  limitPa: number
}) {
  const { units } = useReadersUnits()
  const scale = units.vacuum === 'micron' ? PA_PER_MICRON : 1
  const lastS = readings.at(-1)!.atS
  const every = Math.max(1, Math.ceil(readings.length / 200))
  const cause = judgement?.cause
  const startS = readings[0]!.atS
  const fitted = cause
    ? Array.from({ length: 61 }, (_, i) => {
        const atS = (i / 60) * (lastS - startS)
        return [(startS + atS) / 60, (onCurve(cause.curve, atS) * PA_PER_MICRON) / scale] as const
      })
    : []
  const input: VacuumInput = {
    read: readings
      .filter((_, i) => i % every === 0 || i === readings.length - 1)
      .map(({ atS, pressurePa }) => [atS / 60, pressurePa / scale] as const),
    noted: readings.length <= 20,
    expected: fitted.length > 0 ? [{ name: 'fitted', points: fitted }] : [],
    marks: [{ name: 'limit', value: limitPa / scale }],
    unit: units.vacuum,
    until: Math.max(10, Math.ceil(lastS / 60)),
    log: false,
  }
  const label = `Vacuum hold: from ${Math.round(input.read[0]![1])} to ${Math.round(input.read.at(-1)![1])} ${units.vacuum} in ${duration(lastS)}`
  return <Drawn className="vacuum-curve" label={label} input={input} load={loadVacuum} />
}
