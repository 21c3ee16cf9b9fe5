import { type FormEvent, useEffect, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { meteringLimitPa } from '#core/charging'
import type { Transfer } from '#core/tape'
import { meteringOf } from '#core/watching'
import { ring } from '~/device/clocks/ring'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useShow } from '~/base/ui/reader'
import { useJob } from '../field/job-context'
import { useFigure } from '../field/use-figure'
import { useJudgedNow } from '../moving/use-place'

/** The suction pressure with the valve still shut: nobody opens it further than so far above that. */
export function MeterFromHere() {
  const { note } = useJob()
  const low = useFigure('pressure', 'metering low')
  const [near, setNear] = useState(false)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const lowPa = low.want()
    if (lowPa === undefined) return
    note([draft('metering-begun', { lowPa, nearCompressor: near })])
    low.clear()
  }
  return (
    <form onSubmit={submit} className="row-of" style={{ alignItems: 'end' }}>
      <MeasureInput {...low.field} label="Suction, running, valve still shut" />
      <Form.Check
        id="near-compressor"
        label="The port is near the compressor"
        checked={near}
        onChange={(event) => setNear(event.target.checked)}
      />
      <Button type="submit" variant="outline-primary">
        Meter from here
      </Button>
    </form>
  )
}

/** As long as liquid is metered in: how far, and what the needle says. It calls. */
export function Metering({ transfer }: { transfer: Transfer }) {
  const { state } = useJob()
  const show = useShow()
  const { lowPa, nearCompressor } = state.metering!
  const seen = useJudgedNow(state.metering, null, (lines, place) => meteringOf(state, transfer, lines, place))
  const tooFar = seen?.code === 'too-much'
  useEffect(() => {
    if (tooFar) ring()
  }, [tooFar])
  const limit = show('pressure', meteringLimitPa(lowPa, nearCompressor))
  return (
    <p className="mb-0" role="status">
      {!seen && <>Not above {limit}. Wait a minute between gulps.</>}
      {seen?.code === 'too-much' && (
        <strong className="field-error">
          Too far open: {show('pressure', seen.lowPa)}, at most {limit}. Close, wait.
        </strong>
      )}
      {seen?.code === 'metering' && (
        <>
          {show('pressure', seen.lowPa)}, at most {limit}.{' '}
          {seen.needle === 'trembling' && 'The needle trembles: liquid is passing, slowly now.'}
        </>
      )}
      {seen?.code === 'vapour-only' && (
        <>
          {show('pressure', seen.lowPa)}, at most {limit}. The needle has settled: only vapour comes.
        </>
      )}{' '}
      <span className="quiet">Frost towards the compressor: stop and wait.</span>
    </p>
  )
}
