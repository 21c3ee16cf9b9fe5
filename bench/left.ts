// Recoveries of 55 g to 20 kg, from -5 to 40 C, by liquid and by vapour, through narrow hoses and wide: how long each is said to take
// yet, against what it took on the plant. Prints how often the truth lay within what was said; nothing in it can fail. Used by
// ./keg bench left.
import {
  type At,
  expectedDuration,
  pullTimeLeft,
  recoveryTimeLeft,
  type TimeLeft,
  watch,
} from '#core/recovery'
import { refrigerant as factsOf, tableOf } from '#core/refrigerants'
import { STANDARD_ATMOSPHERE_PA } from '#core/units'
import { dice, playerOf, readScenario, seedFor } from '../sim'

const RUNS = Number(process.env.KEG_BENCH_RUNS ?? 2_000)
const LEAST_KG = 0.055
const MOST_KG = 20
const GASES = ['R-410A', 'R-134a', 'R-404A', 'R-32', 'R-407C']
const BORES = [2.4e-6, 6e-6, 14e-6]
/** Hoses that a plan can name. */
const HOSES = new Map([
  [2.4e-6, '1/4'],
  [14e-6, '3/8'],
] as const)
const SHARES = [0.3, 0.5, 0.7, 0.85]
const LONGEST_S = 39_000
const DIVISION_KG = 0.005

/** How often an instrument says what it reads, s. */
const SAYS_S = 2
const GAUGE_PA = 17_500
/** Sooner nothing is said of a pull, s. */
const LEAST_LIVE_S = 60

interface Asked {
  /** By a scale and a gauge that speak, or by weights typed now and then. */
  live: boolean
  chargeKg: number
  share: number
  liquid: boolean
  cold: boolean
  truthS: number
  leastS: number
  mostS: number
}

/** How long a recovery was expected to take before it began. */
interface Begun {
  chargeKg: number
  truthS: number
  leastS: number
  mostS: number
}

const begun: Begun[] = []
const asked: Asked[] = []
for (let run = 0; run < RUNS; run++) asked.push(...recovered(run))

const within = (of: (each: Asked) => boolean) => shares(asked.filter(of))
function shares(all: readonly Begun[]) {
  const share = (count: number) => `${((100 * count) / Math.max(1, all.length)).toFixed(0)} %`
  const shorter = all.filter(({ truthS, leastS }) => truthS < leastS).length
  const longer = all.filter(({ truthS, mostS }) => truthS > mostS).length
  return {
    asked: all.length,
    within: share(all.length - shorter - longer),
    'took less': share(shorter),
    'took longer': share(longer),
  }
}
console.log(`${RUNS} recoveries; the time left that was said, against what it took`)
console.table({
  all: within(() => true),
  'below 200 g': within(({ chargeKg }) => chargeKg < 0.2),
  '200 g to 1 kg': within(({ chargeKg }) => chargeKg >= 0.2 && chargeKg < 1),
  '1 to 4 kg': within(({ chargeKg }) => chargeKg >= 1 && chargeKg < 4),
  'above 4 kg': within(({ chargeKg }) => chargeKg >= 4),
  ...Object.fromEntries(
    SHARES.map((wanted) => [`${100 * wanted} % out`, within(({ share }) => share === wanted)]),
  ),
  'by liquid': within(({ liquid }) => liquid),
  'by vapour': within(({ liquid }) => !liquid),
  'below 10 C': within(({ cold }) => cold),
  'typed, nothing else': within(({ live }) => !live),
  'live, with a gauge': within(({ live }) => live),
  'live, by liquid, 30 to 50 % out': within(({ live, liquid, share }) => live && liquid && share <= 0.5),
})

const expectedTo = (least: number, most: number) =>
  shares(begun.filter(({ chargeKg }) => chargeKg >= least && chargeKg < most))
console.log('How long it was expected to take before it began')
console.table({
  'below 200 g': expectedTo(0, 0.2),
  '200 g to 1 kg': expectedTo(0.2, 1),
  '1 to 4 kg': expectedTo(1, 4),
  'above 4 kg': expectedTo(4, Infinity),
})

/** One recovery, weighed every so often on a scale of 5 g, and asked at some shares of what came in the end. */
function recovered(run: number): Asked[] {
  const own = dice(seedFor(run, 'left'))
  const between = (least: number, most: number) => least + own.even() * (most - least)
  const pick = <T>(list: readonly T[]) =>
    list[Math.min(list.length - 1, Math.floor(own.even() * list.length))]!
  const chargeKg = LEAST_KG * (MOST_KG / LEAST_KG) ** own.even()
  const refrigerant = pick(GASES)
  const bore = pick(BORES)
  const ambientK = between(268, 313)
  const valve = pick(['liquid', 'vapour'] as const)
  const large = chargeKg > 5
  const fan = own.even() < 0.5
  const coreIn = own.even() < 0.5
  const player = playerOf(
    readScenario({
      name: `run ${run}`,
      stepS: 0.5,
      untilS: LONGEST_S + 1,
      parameters: {
        refrigerant,
        ambientK,
        // Larger machines have more of everything.
        system: {
          chargeKg,
          volumeM3: Math.max(4e-4, chargeKg * between(3.5e-3, 6e-3)),
          oilKg: 0.3 * chargeKg,
          metalJK: 2_700 * chargeKg,
          pocketKg: 0.06 * chargeKg,
          uaOffWK: 7 * chargeKg ** 0.8,
          uaOnWK: 40 * chargeKg ** 0.8,
          evaporationRefKg: Math.min(0.1, chargeKg / 10),
        },
        cylinder: { contentsKg: 0, volumeM3: large ? 47e-3 : 11.9e-3, steelKg: large ? 20 : 6 },
        hose: { suctionK: bore, dischargeK: bore },
      },
      controls: { line: 'machine', machine: 'run', valve, fan, coreIn },
    } as never),
  )
  const { state } = player
  const weights: [atS: number, massKg: number][] = [[0, 0]]
  const everyS = Math.max(10, Math.min(300, chargeKg * 40))
  const isOver = () => {
    if (state.machine.stoppedItself || state.machine.cutOut || state.seconds > LONGEST_S) return true
    const before = weights.findLast(([atS]) => atS <= state.seconds - 600)
    return before !== undefined && state.cylinder.kg - before[1] < 0.01 * chargeKg
  }
  const live = { weights: [] as At[], low: [] as At[] }
  let downS: number | undefined
  for (let nextS = everyS; !isOver();) {
    player.advance()
    const { seconds: atS } = state
    if (atS % SAYS_S === 0) {
      live.weights.push({ atS, value: Math.round(state.cylinder.kg / DIVISION_KG) * DIVISION_KG })
      live.low.push({ atS, value: state.seen.systemPa })
    }
    if (state.seconds > 1 && state.seen.suctionPa <= STANDARD_ATMOSPHERE_PA) downS ??= state.seconds
    if (state.seconds < nextS) continue
    weights.push([state.seconds, Math.round(state.cylinder.kg / DIVISION_KG) * DIVISION_KG])
    nextS += everyS
  }
  const endKg = state.cylinder.kg
  const done = weights.find(([, massKg]) => massKg >= endKg - Math.min(0.02, 0.05 * chargeKg))
  const endS = done?.[0] ?? state.seconds
  const hose = HOSES.get(bore as never)
  const rig = { liquidFirst: valve === 'liquid', coresOut: !coreIn, ambientK }
  const expected =
    hose &&
    expectedDuration(
      { chargeKg, hose, levelPa: STANDARD_ATMOSPHERE_PA, ...rig },
      tableOf(refrigerant),
      factsOf(refrigerant).molarMassG,
    )
  if (expected && !state.machine.cutOut && state.seconds <= LONGEST_S) {
    const { least, most } = expected.seconds
    begun.push({ chargeKg, truthS: Math.max(endS, downS ?? 0), leastS: least, mostS: most })
  }
  /** Live samples up to a time, and what is said of the pull then. */
  function liveLeft(untilS: number): TimeLeft | undefined {
    const upTo = (samples: readonly At[]) => samples.filter(({ atS }) => atS <= untilS)
    const heard = {
      weights: upTo(live.weights),
      low: upTo(live.low),
      cylinderPa: [],
      cylinderK: [],
      coilK: [],
    }
    const said = watch({
      ...heard,
      nowS: untilS,
      divisionKg: DIVISION_KG,
      gaugePa: GAUGE_PA,
      atmospherePa: STANDARD_ATMOSPHERE_PA,
      ambientK,
      levelPa: STANDARD_ATMOSPHERE_PA,
      table: tableOf(refrigerant),
    })
    return pullTimeLeft(said.weights, chargeKg, said.state.code)
  }
  const of = { chargeKg, liquid: valve === 'liquid', cold: ambientK < 283 }
  const asked = (share: number, atS: number, isLive: boolean, left: TimeLeft | undefined): Asked[] =>
    left && 'leastS' in left ? [{ ...of, share, live: isLive, truthS: endS - atS, ...left }] : []
  return SHARES.flatMap((share) => {
    const i = weights.findIndex(([, massKg]) => massKg >= share * endKg)
    const noted = weights.slice(0, i + 1).map(([atS, massKg]) => ({ atS, massKg }))
    const typedS = noted.at(-1)?.atS ?? endS
    const liveS = live.weights.find(({ value }) => value >= share * endKg)?.atS ?? endS
    return [
      ...(i < 3 || typedS >= endS ? [] : asked(share, typedS, false, recoveryTimeLeft(noted, chargeKg))),
      ...(liveS < LEAST_LIVE_S || liveS >= endS ? [] : asked(share, liveS, true, liveLeft(liveS))),
    ]
  })
}
