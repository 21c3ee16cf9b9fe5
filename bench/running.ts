// A running system with faults of three sizes, read with ordinary instruments: what the judge says of each. Prints every
// share; nothing in it can fail. Used by ./keg bench running.
import {
  ALL_READ,
  type AlsoRead,
  type Device,
  type Fault,
  FAULTS,
  type FaultSize,
  HEALTHY_KINDS,
  healthyJudged,
  INSTRUMENTS,
  madeRunning,
  mayHave,
  readAndJudged,
  SAID_OF,
} from '../sim/running'

const RUNS = Number(process.env.KEG_BENCH_RUNS ?? 40)
const SEED = 20_261

const READ: Record<string, AlsoRead> = {
  everything: ALL_READ,
  'no standing check': { ...ALL_READ, standing: false },
  'no drier, no standing check': { ...ALL_READ, standing: false, drier: false },
  'pressures, lines, evaporator air': { airOn: true, airOff: true, wetBulb: true },
  'the same without a wet bulb': { airOn: true, airOff: true },
  'pressures, lines, air around': {},
}

const made = (['valve', 'orifice'] satisfies Device[]).flatMap((device) =>
  FAULTS.filter((fault) => mayHave(device, fault)).flatMap((fault) =>
    ([0, 1, 2] satisfies FaultSize[]).flatMap((size) =>
      Array.from({ length: RUNS }, (_, i) => ({
        device,
        fault,
        size,
        seed: SEED + i,
        run: madeRunning(fault, size, device, SEED + i),
      })),
    ),
  ),
)

interface Count {
  alone: number
  first: number
  other: number
  none: number
  wrong: number
}

const wrongs = new Map<string, number>()

function count(also: AlsoRead, only?: (fault: Fault, size: FaultSize) => boolean): Count {
  const found: Count = { alone: 0, first: 0, other: 0, none: 0, wrong: 0 }
  for (const { device, fault, size, seed, run } of made) {
    if (only && !only(fault, size)) continue
    const pattern = readAndJudged(run, device, also, seed)
    if (!pattern) continue
    const { code, outcome } = pattern.verdict
    if (code === `pattern-${fault}`) found.alone++
    else if (code === 'pattern-none') found.none++
    else if (outcome === 'open') found[pattern.ranked[0]!.cause === fault ? 'first' : 'other']++
    else {
      found.wrong++
      const key = `${device}, ${fault}, size ${size + 1}: ${code}`
      wrongs.set(key, (wrongs.get(key) ?? 0) + 1)
    }
  }
  return found
}

function row({ alone, first, other, none, wrong }: Count) {
  const all = alone + first + other + none + wrong
  const share = (n: number) => `${((100 * n) / all).toFixed(1)} %`
  return {
    judged: all,
    'named alone, right': share(alone),
    'open, right one first': share(first),
    'open, another first': share(other),
    'fits nothing': share(none),
    'named alone, wrong': share(wrong),
  }
}

console.log(`${RUNS} machines of each fault, size and device; weather 24 to 38 °C`)
console.table(Object.fromEntries(Object.entries(READ).map(([name, also]) => [name, row(count(also))])))
console.log('Each fault by its size, everything read')
console.table(
  Object.fromEntries(
    FAULTS.flatMap((fault) =>
      (['small', 'middling', 'large'] as const).map((word, size) => [
        `${fault}, ${word}`,
        row(count(ALL_READ, (f, s) => f === fault && s === size)),
      ]),
    ),
  ),
)
console.log('Wrong ones', Object.fromEntries(wrongs))

const HEALTHY = 400
console.log(`${HEALTHY} machines of each kind with nothing wrong: how many are accused of something`)
console.table(
  Object.fromEntries(
    HEALTHY_KINDS.map((kind) => [
      kind,
      Object.fromEntries(
        (Object.keys(INSTRUMENTS) as (keyof typeof INSTRUMENTS)[]).flatMap((by) =>
          [false, true].map((said) => {
            const state = said ? SAID_OF[kind] : undefined
            const accused = Array.from({ length: HEALTHY }, (_, seed) => {
              const { outcome } = healthyJudged(kind, seed, by, state ? { [state]: true } : {})?.verdict ?? {}
              return outcome === 'caution' || outcome === 'bad'
            }).filter(Boolean).length
            return [`${by}${said ? ', asked' : ''}`, `${((100 * accused) / HEALTHY).toFixed(1)} %`]
          }),
        ),
      ),
    ]),
  ),
)
