import { type RefObject, useEffect, useRef, useState } from 'react'
import { METRIC_UNITS, MG_PER_KG, MG_PER_LB, PA_PER_MICRON } from '#core/units'
import { useReadersUnits } from '~/ui/reader'
import { clockTime } from '~/ui/time'
import { useJob } from '../job-context'

/** Weight and vacuum over the time of the job. The chart's code is loaded only when there is something to draw, and to see. */
export function StripChart() {
  const { state, data } = useJob()
  const { units } = useReadersUnits()
  const box = useRef<HTMLDivElement>(null)
  const [failed, setFailed] = useState(false)
  const perMg = units.weight === METRIC_UNITS.weight ? 1 / MG_PER_KG : 1 / MG_PER_LB
  const weightUnit = units.weight === METRIC_UNITS.weight ? 'kg' : 'lb'
  const vacuumScale = units.vacuum === 'micron' ? 1 / PA_PER_MICRON : 1
  const worthIt = state.transfers.some((r) => r.weighings.length > 1) || state.vacuum.length > 1

  const seen = useSeen(box, worthIt)

  useEffect(() => {
    if (!worthIt || !seen || !box.current) return
    let gone = false
    let dispose = () => {}
    const element = box.current
    import('./strip-chart-drawing')
      .then(({ drawStrip }) => {
        if (gone) return
        const ink = getComputedStyle(element)
        dispose = drawStrip(element, {
          runs: state.transfers.map((run) => ({
            name: run.use === 'recover' ? 'Recovering' : 'Charging',
            points: run.weighings.map((w) => [w.at, w.weightMg * perMg] as [number, number]),
          })),
          vacuum: state.vacuum.map((v) => [v.at, Math.max(0.1, v.value * vacuumScale)]),
          weightUnit,
          vacuumUnit: units.vacuum,
          time: (at) => clockTime(at, data.shop.timeZone),
          colours: {
            ink: ink.getPropertyValue('--keg-ink'),
            quiet: ink.getPropertyValue('--keg-quiet'),
            rule: ink.getPropertyValue('--keg-rule'),
            copper: ink.getPropertyValue('--keg-copper'),
            cold: ink.getPropertyValue('--keg-cold'),
          },
        })
      })
      .catch(() => setFailed(true))
    return () => {
      gone = true
      dispose()
    }
  }, [
    worthIt,
    seen,
    state.transfers,
    state.vacuum,
    perMg,
    weightUnit,
    vacuumScale,
    units.vacuum,
    data.shop.timeZone,
  ])

  if (!worthIt) return null
  return (
    <section
      className="sheet strip-chart-sheet"
      aria-label="Strip chart of weight and vacuum; every point stands on the tape too"
    >
      {failed ? (
        <p className="mb-0 quiet">
          The chart could not be loaded without a connection. Every point stands on the tape.
        </p>
      ) : (
        <div ref={box} className="strip-chart" />
      )}
    </section>
  )
}

/** Whether it was ever near the screen: beside the scale face on a phone it is not. */
function useSeen(box: RefObject<HTMLDivElement | null>, there: boolean): boolean {
  const [seen, setSeen] = useState(false)
  useEffect(() => {
    if (!there || !box.current) return
    const watch = new IntersectionObserver(
      (entries) => entries.some((each) => each.isIntersecting) && setSeen(true),
      { rootMargin: '300px' },
    )
    watch.observe(box.current)
    return () => watch.disconnect()
  }, [box, there])
  return seen
}
