import { useEffect } from 'react'
import { Button } from 'react-bootstrap'
import { type ChargingState, handLag, NEVER_ABOVE_K, warmWater, watchCharge } from '#core/charging'
import { tableOf } from '#core/refrigerants'
import { isToppedUp, type Transfer } from '#core/tape'
import { MG_PER_KG } from '#core/units'
import { chargeOf, isMetered, SNIFFED } from '#core/watching'
import { firstToRing, ring } from '~/device/clocks/ring'
import { draft } from '~/tape/draft'
import { useShow, useShowRate } from '~/base/ui/reader'
import { duration } from '~/base/ui/time'
import { CHARGING_WORDS, PAUSE_WORDS, TOP_UP_WORDS } from '~/words/en'
import { useJob } from '../field/job-context'
import { contentsBeforeMg } from '../moving/contents'
import { TakeOut } from '../moving/take-out'
import { useJudgedNow } from '../moving/use-place'
import { MeterFromHere, Metering } from './metering'
import '~/styles/pull.scss'

/** In words and with a number what goes on in a running charge: the call comes as early as the hand is slow. */
export function ChargeLine({ transfer }: { transfer: Transfer }) {
  const { state, data, note, closed, openStage } = useJob()
  const lag = handLag(data.chargeLags)
  const seen = useJudgedNow(transfer, transfer.segments.at(-1)!.scaleId, (lines, place) => {
    const charging = chargeOf(state, transfer, lines, place, lag)
    return (
      charging && {
        state: watchCharge(charging),
        pauses: charging.pauses,
        touched: charging.jumps.findLast((jump) => charging.nowS - jump.atS < 120 * place.speed),
        speed: place.speed,
      }
    )
  })
  const metered = isMetered(state, transfer)
  const numbers = useNumbers(seen?.speed ?? 1)
  // A hand is at the valve, and eyes are there, too.
  const calls = seen?.state.code === 'close-now' && `${transfer.transferId} ${seen.pauses}`
  useEffect(() => {
    if (calls && firstToRing(`close ${calls}`)) ring()
  }, [calls])
  if (!seen) return null
  const { code } = seen.state
  const { says, helps } = wordsFor(code, seen.pauses, isToppedUp(state))
  return (
    <>
      <div className={`pull-state charging-${code}`}>
        <strong role="status">{says}</strong>
        <span className="digits">{numbers(seen.state)}</span>
        {helps && <span className="quiet">{helps}</span>}
        {(code === 'soon' || code === 'close-now') && (
          <span className="quiet">
            {lag.from === 0
              ? `Called ${lag.seconds} s early: what a hand takes.`
              : `Called ${lag.seconds.toFixed(1)} s early: your hand in the last ${lag.from} charges.`}
          </span>
        )}
        {seen.touched && (
          <span className="pull-alarm">
            <strong>
              <span role="alert">Somebody touched the scale</span>
            </strong>{' '}
            Hands off while it charges. {!closed && <TakeOut transfer={transfer} byKg={-seen.touched.byKg} />}
          </span>
        )}
      </div>
      {seen.pauses && !closed && (code === 'reached' || code === 'over' || code === 'stands') && (
        <div className="row-of" role="group" aria-label="The cabin’s vents">
          <Button className="btn-big" onClick={() => note([draft('step-done', { step: SNIFFED })])}>
            Sniffed: nothing, go on
          </Button>
          <Button
            variant="outline-danger"
            className="btn-big"
            onClick={() => {
              note([draft('leak-checked', { method: 'detector', found: true, text: 'at the cabin’s vents' })])
              openStage('leak-test')
            }}
          >
            Gas at the vents
          </Button>
        </div>
      )}
      {metered && <Metering transfer={transfer} />}
      {code === 'stands' && !seen.pauses && !closed && <WhatNow transfer={transfer} meters={!metered} />}
    </>
  )
}

function wordsFor(code: ChargingState['code'], pauses: boolean, topUp: boolean) {
  if (pauses && code === 'soon') return { says: PAUSE_WORDS.soon }
  if (pauses && code === 'close-now') return { says: PAUSE_WORDS.closeNow }
  if (pauses && (code === 'reached' || code === 'over')) return { says: PAUSE_WORDS.there }
  return (topUp && TOP_UP_WORDS[code]) || CHARGING_WORDS[code]
}

/** What takes longer than so many seconds has its range beside the figure. */
const COUNTED_S = 120

function useNumbers(speed: number) {
  const show = useShow()
  const rate = useShowRate()
  const kg = (of: number) => show('weight', Math.round(of * MG_PER_KG))
  return (state: ChargingState): string => {
    switch (state.code) {
      case 'too-few':
        return ''
      case 'stale':
        return `for ${duration(state.agoS)}`
      case 'flowing':
        return [
          rate(state.kgPerS),
          state.inS === undefined || state.inS > COUNTED_S ? '' : `closes in ${duration(state.inS / speed)}`,
        ]
          .filter(Boolean)
          .join(', ')
      case 'soon':
        return `${kg(state.leftKg)} left, ${duration(state.inS / speed)}`
      case 'close-now':
        return `${kg(state.leftKg)} left`
      case 'reached':
        return ''
      case 'over':
        return `by ${kg(state.overKg)}`
      case 'stands':
        return state.leftKg === undefined ? '' : `${kg(state.leftKg)} left`
      case 'back':
        return rate(-state.kgPerS)
    }
  }
}

/** It stands short of the target: warm water, metering, or another source. */
function WhatNow({ transfer, meters }: { transfer: Transfer; meters: boolean }) {
  const { state, cylinderOf, data } = useJob()
  const show = useShow()
  if (!state.refrigerant) return null
  const cylinder = cylinderOf(transfer.cylinderId)
  const heldMg = cylinder ? contentsBeforeMg(cylinder, state.transfers) : 0
  const water = warmWater(
    tableOf(state.refrigerant),
    cylinder?.servicePressurePa ?? null,
    cylinder?.waterCapacityMg ? (1_000 * heldMg) / cylinder.waterCapacityMg : undefined,
  )
  return (
    <details className="face-hint">
      <summary>What to do now</summary>
      <ul className="mb-1">
        <li>
          Warm water for the cylinder: {show('temperature', water.tempK)}
          {water.byRating && ', no more: its service pressure'}, never above{' '}
          {show('temperature', NEVER_ABOVE_K)}, never a flame, no water into the valve.
          {water.pressurePa !== undefined &&
            ` It then stands at ${water.doubt ? 'about ' : ''}${show('pressure', water.pressurePa)}${water.doubt ? `, give or take ${100 * water.doubt} %, by what is in it` : ''}.`}
        </li>
        {data.system?.trade !== 'vehicle' && (
          <li>Run the system and meter liquid slowly into suction: see below.</li>
        )}
        <li>
          Another source: Finish, then choose the next cylinder. The recovery machine is no pump for it.
        </li>
      </ul>
      {data.system?.trade !== 'vehicle' && meters && <MeterFromHere />}
    </details>
  )
}
