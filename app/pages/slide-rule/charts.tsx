import { wrap } from 'comlink'
import { useEffect, useRef, useState } from 'react'
import { PA_PER_MICRON } from '#core/units'
import type { Chart, EvacuationComparison } from '~/slide-rule/outcome'
import { useReadersUnits } from '~/base/ui/reader'
import type { EvacuationWorker } from '~/workers/evacuation'
import type { ShownOutcome } from './result'

export function Charts({ outcome }: { outcome: ShownOutcome }) {
  return (
    <>
      {outcome.chart && <LineChart chart={outcome.chart} />}
      {outcome.comparison && <EvacuationChart comparison={outcome.comparison} />}
    </>
  )
}

/** Lines drawn once their code has come; what they show stands in the tables too. */
export function LineChart({ chart }: { chart: Chart }) {
  const box = useRef<HTMLDivElement>(null)
  const [failed, setFailed] = useState(false)
  const asText = JSON.stringify(chart)
  useEffect(() => {
    let gone = false
    let dispose = () => {}
    import('./chart-drawing')
      .then(({ drawChart }) => {
        if (!gone && box.current) dispose = drawChart(box.current, JSON.parse(asText) as Chart)
      })
      .catch(() => setFailed(true))
    return () => {
      gone = true
      dispose()
    }
  }, [asText])
  return (
    <section className="sheet">
      <h2>{chart.title}</h2>
      {failed ? (
        <p className="mb-0 quiet">
          The chart could not be loaded without a connection. The numbers stand below.
        </p>
      ) : (
        <div
          ref={box}
          className="tool-chart"
          role="img"
          aria-label={`${chart.title}; the numbers stand in the text`}
        />
      )}
    </section>
  )
}

/** Computed in a worker: the page stays quick whatever is asked. */
function EvacuationChart({ comparison }: { comparison: EvacuationComparison }) {
  const { units } = useReadersUnits()
  const [chart, setChart] = useState<Chart>()
  const asText = JSON.stringify(comparison)
  useEffect(() => {
    const worker = new Worker(new URL('../../workers/evacuation.ts', import.meta.url), { type: 'module' })
    const { compare } = wrap<EvacuationWorker>(worker)
    const asked = JSON.parse(asText) as EvacuationComparison
    const scale = units.vacuum === 'micron' ? PA_PER_MICRON : 1
    let gone = false
    void compare(asked).then((curves) => {
      if (gone) return
      setChart({
        title: 'The way down',
        x: { name: 'Time', unit: 'min' },
        y: { name: 'Pressure', unit: units.vacuum, log: true },
        lines: curves.map(({ name, points }) => ({
          name,
          points: points.map(([atS, pressurePa]) => [atS / 60, pressurePa / scale]),
        })),
        marks: [],
      })
    })
    return () => {
      gone = true
      worker.terminate()
    }
  }, [asText, units.vacuum])
  return chart ? <LineChart chart={chart} /> : null
}
