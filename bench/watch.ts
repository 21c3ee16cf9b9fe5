// A thousand recoveries of all kinds, with instruments that err and hands that slip: what is said of each, every few
// seconds, against what the plant knows. Prints a table; nothing in it can fail. Used by ./keg bench watch.
import {
  type At,
  judgeWait,
  type Pull,
  pullAlarms,
  type PullState,
  pullTimeLeft,
  watch,
} from '#core/recovery'
import { refrigerant as factsOf, tableOf } from '#core/refrigerants'
import { dice, type PlantState, playerOf, readScenario, seedFor, sensorsOf, sensorsWith } from '../sim'

const RUNS = Number(process.env.KEG_BENCH_RUNS ?? 1_000)
const ATMOSPHERE_PA = 101_325
const LONGEST_S = 900
const EVERY_S = 5
const GASES = ['R-410A', 'R-134a', 'R-404A', 'R-32', 'R-407C']
const BORES = [2.4e-6, 14e-6]
/** Less than that a minute is nothing for a scale of 5 g. */
const NOTHING_KG_S = 0.005 / 60
const SOMETHING_KG_S = 0.02 / 60

interface Tally {
  said: number
  right: number
}
const verdicts: Record<string, Tally> = {}
const count = (name: string, right: boolean) => {
  const tally = (verdicts[name] ??= { said: 0, right: 0 })
  tally.said++
  if (right) tally.right++
}
const GAUGE_PA = 17_500
const WAIT_S = 600
/** Less than this is still to come: what a time left counts to. */
const REST_KG = 0.02
let falseAlarms = 0
let halfWay = { asked: 0, said: 0, held: 0 }
let nudges = { made: 0, found: 0 }
let shut = { made: 0, found: 0, withinS: [] as number[] }

for (let run = 0; run < RUNS; run++) one(run)
console.log(`${RUNS} recoveries, judged every ${EVERY_S} s`)
console.table(
  Object.fromEntries(
    Object.entries(verdicts).map(([name, { said, right }]) => [
      name,
      { said, right, share: `${((100 * right) / said).toFixed(2)} %` },
    ]),
  ),
)
console.table({
  'runs with a false alarm': `${falseAlarms} of ${RUNS}`,
  'nudges found': `${nudges.found} of ${nudges.made}`,
  'time left said at half-way': `${halfWay.said} of ${halfWay.asked}`,
  'and held its range': `${halfWay.held} of ${halfWay.said}, ${((100 * halfWay.held) / halfWay.said).toFixed(0)} %`,
  'shut valves found': `${shut.found} of ${shut.made}, after ${median(shut.withinS).toFixed(0)} s at the median`,
})

function one(run: number) {
  const own = dice(seedFor(run, 'watch'))
  const pick = <T>(list: readonly T[]): T =>
    list[Math.min(list.length - 1, Math.floor(own.even() * list.length))]!
  const between = (least: number, most: number) => least + own.even() * (most - least)
  const refrigerant = pick(GASES)
  const bore = pick(BORES)
  const scenario = readScenario({
    name: `run ${run}`,
    stepS: 0.25,
    untilS: LONGEST_S + 1,
    parameters: {
      refrigerant,
      ambientK: between(280, 308),
      system: { chargeKg: between(0.6, 4) },
      cylinder: { contentsKg: between(0, 3) },
      hose: { suctionK: bore, dischargeK: bore },
    },
    controls: {
      line: 'machine',
      machine: 'run',
      valve: pick(['liquid', 'vapour']),
      coreIn: own.even() < 0.5,
      fan: own.even() < 0.5,
    },
  })
  const { parameters } = scenario
  const player = playerOf(scenario)
  const { state } = player
  const shutS = own.even() < 0.2 ? between(40, 200) : Infinity
  const nudgeS = own.even() < 0.1 ? between(30, 150) : Infinity
  const nudgeKg = (own.even() < 0.5 ? -1 : 1) * between(0.15, 0.8)
  const sensors = sensorsOf(
    sensorsWith({
      low: { fullScalePa: 35e5, classPct: 1, at: 'system' },
      ...(nudgeS < Infinity ? { scale: { nudge: { atS: nudgeS, kg: nudgeKg } } } : {}),
    }),
    run,
  )
  const heard: Record<'weights' | 'low' | 'cylinderPa' | 'cylinderK' | 'coilK', At[]> = {
    weights: [],
    low: [],
    cylinderPa: [],
    cylinderK: [],
    coilK: [],
  }
  const startKg = state.cylinder.kg
  const cylinderAt: At[] = []
  const codes: { atS: number; code: PullState['code'] }[] = []
  let alarmed = false
  let nudgeFound = false
  let stuckS = Infinity
  let couldMove = true
  if (nudgeS < Infinity) nudges.made++
  for (let atS = 0.5; atS <= LONGEST_S; atS += 0.5) {
    if (atS >= shutS && state.controls.valve !== 'closed') {
      couldMove = state.seen.systemPa > ATMOSPHERE_PA + 1e5
      if (couldMove) shut.made++
      state.controls.valve = 'closed'
    }
    for (let i = 0; i < 2; i++) player.advance()
    const read = sensors.read(parameters, state)
    const put = (into: At[], value: number | undefined, add = 0) =>
      value !== undefined && into.push({ atS, value: value + add })
    put(heard.weights, read.weight, -9 - startKg)
    put(heard.low, read.low, ATMOSPHERE_PA)
    put(heard.cylinderPa, read['cylinder-pressure'], ATMOSPHERE_PA)
    put(heard.cylinderK, read.cylinder)
    put(heard.coilK, read.suction)
    cylinderAt.push({ atS, value: state.cylinder.kg })
    if (atS % EVERY_S !== 0) continue
    const pull: Pull = {
      ...heard,
      nowS: atS,
      divisionKg: 0.005,
      gaugePa: GAUGE_PA,
      atmospherePa: ATMOSPHERE_PA,
      ambientK: parameters.ambientK,
      levelPa: ATMOSPHERE_PA,
      table: tableOf(refrigerant),
    }
    const now = watch(pull)
    codes.push({ atS, code: now.state.code })
    const minuteAgo = cylinderAt.at(-121)
    if (minuteAgo)
      judge(now.state, (state.cylinder.kg - minuteAgo.value) / 60, state.controls.valve === 'closed', state)
    if (now.state.code === 'stuck' && atS > shutS) stuckS = Math.min(stuckS, atS - shutS)
    const alarms = pullAlarms(pull, now, { roomKg: undefined, leaking: false, ratingPa: undefined })
    for (const alarm of alarms) {
      if (alarm.code === 'nudged' && Math.abs(alarm.atS - nudgeS) <= 1.5) nudgeFound = true
      else if (alarm.code !== 'cylinder-hot' || state.cylinder.tempK < 322) alarmed = true
    }
    if (now.state.code === 'maybe-done' && shutS === Infinity) {
      if (nudgeS === Infinity) {
        timeLeftAtHalfWay(heard.weights, cylinderAt, parameters.system.chargeKg, codes)
        wait()
      }
      break
    }
  }
  if (alarmed) falseAlarms++

  /** Machine off, valve shut: after ten minutes, is it as the gauge is said to say? */
  function wait() {
    Object.assign(state.controls, { machine: 'off', valve: 'closed' })
    const low: At[] = []
    for (let atS = 0.5; atS <= WAIT_S; atS += 0.5) {
      for (let i = 0; i < 2; i++) player.advance()
      const read = sensors.read(parameters, state).low
      if (read !== undefined) low.push({ atS, value: read + ATMOSPHERE_PA })
    }
    const { code } = judgeWait({
      low,
      nowS: WAIT_S,
      levelPa: ATMOSPHERE_PA,
      atmospherePa: ATMOSPHERE_PA,
      gaugePa: GAUGE_PA,
      ambientK: parameters.ambientK,
      leaking: false,
      chargeKg: parameters.system.chargeKg,
      gas: { table: tableOf(refrigerant), molarMassG: factsOf(refrigerant).molarMassG },
    }).verdict
    // Within what this gauge may be off both are right.
    const overPa = state.seen.systemPa - ATMOSPHERE_PA - GAUGE_PA
    const near = Math.abs(overPa) < 2 * GAUGE_PA
    if (code === 'wait-again') count('wait: again', near || overPa > 0)
    else if (code === 'wait-worth-it' || code === 'wait-done')
      count('wait: within the level', near || overPa < 0)
    else count(`wait: ${code.slice(5)}`, code !== 'wait-air')
  }
  if (nudgeFound) nudges = { ...nudges, found: nudges.found + 1 }
  if (stuckS < Infinity && couldMove)
    shut = { ...shut, found: shut.found + 1, withinS: [...shut.withinS, stuckS] }
}

/** Half of it is out: is the time that the rest took within what was said then? */
function timeLeftAtHalfWay(
  weights: readonly At[],
  cylinderAt: readonly At[],
  chargeKg: number,
  codes: readonly { atS: number; code: PullState['code'] }[],
) {
  const [first, last] = [cylinderAt[0]!.value, cylinderAt.at(-1)!.value]
  const half = cylinderAt.find(({ value }) => value - first >= (last - first) / 2)!.atS
  const done = cylinderAt.find(({ value }) => last - value < REST_KG)!.atS
  halfWay = { ...halfWay, asked: halfWay.asked + 1 }
  const left = pullTimeLeft(
    weights.filter(({ atS }) => atS <= half),
    chargeKg,
    codes.findLast(({ atS }) => atS <= half)?.code,
  )
  if (!left || !('leastS' in left)) return
  const took = done - half
  const held = took >= left.leastS && took <= left.mostS
  halfWay = { ...halfWay, said: halfWay.said + 1, held: halfWay.held + (held ? 1 : 0) }
}

/** What the plant knows of the last minute, beside what is said. */
function judge(said: PullState, kgPerS: number, isShut: boolean, plant: PlantState) {
  const { code } = said
  if (code === 'maybe-done') count(code, kgPerS < SOMETHING_KG_S)
  else if (code === 'stuck') count(code, isShut || plant.machine.cutOut || kgPerS < NOTHING_KG_S)
  else if (code === 'cut-out') count(code, plant.machine.cutOut)
  else if (code === 'falling') count(code, false)
  else if (code === 'boiling-cold') count(code, plant.system.mainK < 300 && kgPerS > 0)
  else if (code === 'last-of-it' || code === 'liquid' || code === 'vapour' || code === 'slowing')
    count(code, kgPerS > NOTHING_KG_S)
  // It stood, or stands: nothing has come for a minute.
  else if (code === 'comes-back' || code === 'equal' || code === 'flat') count(code, kgPerS < SOMETHING_KG_S)
}

function median(list: number[]): number {
  return list.toSorted((a, b) => a - b)[list.length >> 1] ?? NaN
}
