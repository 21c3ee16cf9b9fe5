// Generated holds of four kinds, 5 to 30 minutes long: what the judge says of each, against what is true of it. Prints
// every share; nothing in it can fail. Used by ./keg bench vacuum.
import { type Cause, type HoldReading, judgeCause } from '#core/vacuum'
import { madeHold, type MadeHold, TRUTHS } from '../sim'

const RUNS = Number(process.env.KEG_BENCH_RUNS ?? 500)
const SEED = 20_261

interface Row {
  holds: number
  'both answered': string
  'one answered': string
  'both open': string
  'answers open': string
  wrong: number
}

let wrongAll = 0
let all = 0

console.log(
  `${RUNS} holds of each kind and length, a reading a second; "wrong": a certain answer that is not so`,
)
for (const minutes of [5, 10, 15, 30]) console.table(table(minutes, (hold) => asIs(hold)))
console.log('15 min, with the hold before as evidence')
console.table(table(15, (hold) => judged(hold, hold.readings, hold.previous)))
console.log('15 min, water as slow as 40 min')
console.table(table(15, (hold) => asIs(hold), 2400))
console.log('30 min, water as slow as 4 h')
console.table(table(30, (hold) => asIs(hold), 14_400))
console.log('15 min, seven readings typed by hand')
console.table(table(15, (hold) => judged(hold, byHand(hold.readings))))
console.log(`${wrongAll} wrong of ${all}: ${((100 * wrongAll) / all).toFixed(3)} %`)
time()

function table(minutes: number, judge: (hold: MadeHold) => Cause | undefined, slowest?: number) {
  const rows: Record<string, Row> = {}
  for (const truth of TRUTHS) {
    let [both, one, open, wrong] = [0, 0, 0, 0]
    for (let run = 0; run < RUNS; run++) {
      const hold = madeHold(SEED + run, truth, minutes * 60, slowest)
      const cause = judge(hold)
      const answers = [cause?.leak, cause?.moisture].filter((each) => each && each !== 'open').length
      if (answers === 2) both++
      else if (answers === 1) one++
      else open++
      if (cause && isWrong(cause, hold)) wrong++
    }
    wrongAll += wrong
    all += RUNS
    const share = (n: number) => `${((100 * n) / RUNS).toFixed(1)} %`
    rows[`${truth}, ${minutes} min`] = {
      holds: RUNS,
      'both answered': share(both),
      'one answered': share(one),
      'both open': share(open),
      'answers open': share((one + 2 * open) / 2),
      wrong,
    }
  }
  return rows
}

function asIs(hold: MadeHold) {
  return judged(hold, hold.readings)
}

function judged({ ambientK }: MadeHold, readings: HoldReading[], previous?: HoldReading[]) {
  return judgeCause({ readings, ambientK, ...(previous && { previous }) })
}

/** "No water" speaks of what gives off within an hour. */
function isWrong({ leak, moisture }: Cause, { truth, waterS }: MadeHold): boolean {
  const leaks = truth === 'leak' || truth === 'both'
  const wet = truth === 'wet' || truth === 'both'
  return leak === (leaks ? 'no' : 'yes') || (wet ? moisture === 'no' && waterS <= 3600 : moisture === 'yes')
}

function byHand(readings: HoldReading[]): HoldReading[] {
  const last = readings.length - 1
  return [0, 60, 120, 300, 480, 660, last].map((i) => readings[i]!)
}

function time() {
  const holds = TRUTHS.flatMap((truth) => Array.from({ length: 50 }, (_, i) => madeHold(i, truth, 900)))
  for (const hold of holds.slice(0, 40)) asIs(hold)
  const took = holds.map((hold) => {
    const from = performance.now()
    asIs(hold)
    return performance.now() - from
  })
  took.sort((a, b) => a - b)
  const at = (share: number) => `${took[Math.floor(share * (took.length - 1))]!.toFixed(1)} ms`
  console.table({ 'one judgement, 15 min at 1 s': { median: at(0.5), 'nine of ten': at(0.9), most: at(1) } })
}
