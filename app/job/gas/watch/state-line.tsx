import { isNearLimit } from '#core/cylinders'
import { type PullAlarm, pullAlarms, type PullState, type TimeLeft, watch } from '#core/recovery'
import { leakKnown, type Transfer } from '#core/tape'
import { MG_PER_KG, STANDARD_ATMOSPHERE_PA } from '#core/units'
import { mayStillComeKg, pullLeft, pullOf } from '#core/watching'
import { useShow, useShowRate } from '~/base/ui/reader'
import { duration, minutesRange } from '~/base/ui/time'
import { PULL_ALARM_WORDS, PULL_WORDS } from '~/words/en'
import { useOnScale } from '~/job/moving/on-scale'
import { useJob } from '~/job/field/job-context'
import { TakeOut } from '~/job/moving/take-out'
import { useJudgedNow } from '~/job/moving/use-place'
import '~/styles/pull.scss'

/** In words and with a number what goes on in a running recovery, and what must be seen to. */
export function StateLine({ transfer }: { transfer: Transfer }) {
  const { closed } = useJob()
  const { state, left, alarms, speed } = useWatched(transfer)
  const text = useNumbers()
  const { says, helps } = PULL_WORDS[state.code]
  const number = text.ofState(state)
  return (
    <div className={`pull-state ${state.code}`}>
      {/* Read out when it changes; the numbers beside it change every second. */}
      <strong role="status">{says}</strong>
      {number && <span className="digits">{number}</span>}
      {left && 'leastS' in left && <span className="digits">{leftWords(left, speed)}</span>}
      {helps && <span className="quiet">{helps}</span>}
      {alarms.map((alarm) => (
        <span key={`${alarm.code} ${'atS' in alarm ? alarm.atS : ''}`} className="pull-alarm">
          <strong>
            <span role="alert">{PULL_ALARM_WORDS[alarm.code].says}</span>
            <span className="digits">{text.ofAlarm(alarm, speed)}</span>
          </strong>{' '}
          {PULL_ALARM_WORDS[alarm.code].helps}{' '}
          {alarm.code === 'nudged' && !closed && <TakeOut transfer={transfer} byKg={alarm.byKg} />}
        </span>
      ))}
    </div>
  )
}

const leftWords = ({ leastS, mostS }: { leastS: number; mostS: number }, speed: number) =>
  mostS > 0 ? `${minutesRange(leastS / speed, mostS / speed)} left` : 'by its rate it should be done'

interface Seen {
  state: PullState
  left: TimeLeft | undefined
  alarms: PullAlarm[]
  speed: number
}

function useWatched(transfer: Transfer): Seen {
  const { state, cylinderOf } = useJob()
  const on = useOnScale(transfer)
  return useJudgedNow(transfer, transfer.segments.at(-1)!.scaleId, (lines, place): Seen => {
    const pull = pullOf(state, transfer, lines, place)
    const watched = watch(pull)
    const roomMg = on?.scale.leftMg
    const rating = cylinderOf(transfer.cylinderId)?.servicePressurePa
    const called = isNearLimit(on?.share)
    const alarms = pullAlarms(pull, watched, {
      roomKg: roomMg === undefined ? undefined : roomMg / MG_PER_KG,
      comesKg: mayStillComeKg(state, transfer, place, watched.weights.at(-1)?.value ?? 0),
      leaking: leakKnown(state),
      // Stamped as a gauge shows it, kept absolute.
      ratingPa: rating ? rating - STANDARD_ATMOSPHERE_PA : undefined,
    })
    // Near and past its limit the cylinder has an alarm of its own: nothing is called twice for one cause.
    return {
      state: watched.state,
      left: pullLeft(state, transfer, pull, watched, place),
      alarms: alarms.filter(({ code }) => !(called && /^limit/.test(code))),
      speed: place.speed,
    }
  })
}

function useNumbers() {
  const show = useShow()
  const rate = useShowRate()
  const perMin = (kgPerS: number) => rate(Math.abs(kgPerS))
  return {
    ofState(state: PullState): string {
      switch (state.code) {
        case 'too-few':
          return ''
        case 'stale':
          return `for ${duration(state.agoS)}`
        case 'slowing':
          return `${perMin(state.kgPerS)}, ${Math.round(100 * state.share)} % of the fastest`
        case 'boiling-cold':
          return `${perMin(state.kgPerS)}, coil at ${show('temperature', state.coilK)}`
        case 'restricted':
          return `${perMin(state.kgPerS)}, and could be ${perMin(state.canKgPerS)}`
        case 'pushing-hot':
          return [
            `${perMin(state.kgPerS)}, ${Math.round(100 * state.share)} % of the fastest`,
            state.cylinderPa === undefined ? '' : `at ${show('pressure', state.cylinderPa)}`,
            state.cylinderK === undefined ? '' : show('temperature', state.cylinderK),
          ]
            .filter(Boolean)
            .join(', ')
        case 'cut-out':
          return `cylinder at ${show('pressure', state.cylinderPa)}`
        case 'flat':
          return `for ${duration(state.flatS)}`
        case 'above-level':
          return `${show('pressure', state.lowPa)}, down to ${show('pressure', state.levelPa)}`
        case 'comes-back':
          return `${show('pressure', state.lowPa)}, from ${show('pressure', state.fromPa)}`
        case 'equal':
        case 'stuck':
        case 'maybe-done':
          return `${show('pressure', state.lowPa)}, for ${duration(state.flatS)}`
        default:
          return perMin(state.kgPerS)
      }
    },
    ofAlarm(alarm: PullAlarm, speed: number): string {
      switch (alarm.code) {
        case 'limit-near':
          return `: room for ${show('weight', Math.round(alarm.roomKg * MG_PER_KG))}, ${minutesRange(alarm.leastS / speed, alarm.mostS / speed)}`
        case 'limit-passed':
          return ` by ${show('weight', Math.round(alarm.overKg * MG_PER_KG))}`
        case 'stop-line-near':
          return `, in about ${duration(Math.round(alarm.inS / speed / 5) * 5)}`
        case 'below-stop-line':
          return `, ${show('pressure', alarm.lowPa)}, for ${duration(alarm.belowS / speed)}: ${show('pressure-difference', alarm.airLeastPa)} to ${show('pressure-difference', alarm.airMostPa)} of air in a 12 L cylinder, through a hole of 0.2 to 0.4 mm`
        case 'may-freeze':
          return `: it boils at ${show('temperature', alarm.boilsAtK)}`
        case 'above-rating':
          return ''
        case 'cylinder-hot':
          return `, ${show('temperature', alarm.cylinderK)}`
        case 'nudged':
          return `: ${alarm.byKg > 0 ? '+' : '−'}${show('weight', Math.round(Math.abs(alarm.byKg) * MG_PER_KG))}`
      }
    },
  }
}
