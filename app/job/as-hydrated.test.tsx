// What the server renders of a job is what the browser renders first: no page may read the browser's store or clock before
// it is alive. Every state of the old tapes and of random courses, every stage.
import { afterEach, describe, expect, it, vi } from 'vitest'
import { type Entry, foldTape, nextStep, type Stage, STAGES } from '#core/tape'
import { STAGE_OF_NEXT } from '~/words/en'
import { partOf } from '../../testing/a-job-page'
import { randomCourse } from '../../testing/a-random-course'
import { StripChart } from './chart/strip-chart'
import { JobHead } from './head/head'
import { MassStrip } from './head/mass-strip'
import { NextLine } from './head/next-line'
import { RunSheet } from './head/run-sheet'
import { WeighedInDoubt } from './kit/weighed-in-doubt'
import { LiveBoard } from './live/board'
import { RigCards } from './live/rig-card'
import { VehicleBay } from './bay/bay'
import { StagePanel } from './stages/panel'
import { AgainstTheBooks } from './tape/against'
import { RefusedEntries } from './tape/refused'
import { TapeList } from './tape/tape-list'
import charged from '#core/tape/old-tapes/charged.json' with { type: 'json' }
import kit from '#core/tape/old-tapes/kit.json' with { type: 'json' }
import roof from '#core/tape/old-tapes/roof.json' with { type: 'json' }
import station from '#core/tape/old-tapes/station.json' with { type: 'json' }
import tight from '#core/tape/old-tapes/tight.json' with { type: 'json' }
import first from '#core/tape/old-tapes/v1.json' with { type: 'json' }
import watched from '#core/tape/old-tapes/watched.json' with { type: 'json' }
import watches from '#core/tape/old-tapes/watches.json' with { type: 'json' }

const OLD = { first, watches, kit, watched, tight, charged, station, roof }
/** Of these the second and the fourth wait with a clock that runs. */
const COURSES = [0, 1, 3, 7]

const page = (stages: readonly Stage[]) => (
  <>
    <JobHead />
    <WeighedInDoubt />
    <MassStrip />
    <RefusedEntries />
    <AgainstTheBooks />
    <VehicleBay />
    <LiveBoard />
    <StripChart />
    <RigCards />
    <TapeList waiting={new Set()} older={0} loadOlder={() => {}} />
    {stages.map((stage) => (
      <div key={stage}>
        <RunSheet stage={stage} open={() => {}} />
        <NextLine stage={stage} open={() => {}} />
        <StagePanel stage={stage} />
      </div>
    ))}
  </>
)

/** A browser that has kept something under every name, with a clock of its own. */
function aBrowser() {
  const store = {
    getItem: () => '"kept here"',
    setItem: () => {},
    removeItem: () => {},
    key: () => null,
    length: 0,
  }
  const nothing = () => {}
  const target = { addEventListener: nothing, removeEventListener: nothing, dispatchEvent: nothing }
  vi.stubGlobal('localStorage', store)
  vi.stubGlobal('sessionStorage', store)
  vi.stubGlobal('navigator', { onLine: false, language: 'sv-SE', userAgent: 'another' })
  vi.stubGlobal('document', { ...target, hidden: true, cookie: '', documentElement: { dataset: {} } })
  vi.stubGlobal('location', { pathname: '/elsewhere', search: '?other', hash: '' })
  vi.stubGlobal('matchMedia', () => ({ matches: true, ...target }))
  vi.stubGlobal('window', { ...target, localStorage: store, innerWidth: 320 })
  vi.useFakeTimers({ now: Date.now() + 5 * 3_600_000 + 123_456, toFake: ['Date', 'performance'] })
}

afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

function asServed(entries: Entry[], stages: readonly Stage[]) {
  expect(typeof window, 'the server has no window').toBe('undefined')
  return partOf(page(stages), entries)
}

function asHydrated(entries: Entry[], stages: readonly Stage[]) {
  aBrowser()
  try {
    return partOf(page(stages), entries)
  } finally {
    vi.useRealTimers()
    vi.unstubAllGlobals()
  }
}

/** Every state on the way: the tape up to each of its entries. */
function expectTheSame(tape: Entry[]) {
  for (let i = 1; i <= tape.length; i++) {
    const entries = tape.slice(0, i)
    const stages = stagesOf(entries)
    const after = `after ${i} entries, the last ${tape[i - 1]!.kind}`
    let served
    try {
      served = asServed(entries, stages)
    } catch (error) {
      throw new Error(`${after}: ${(error as Error).message}`, { cause: error })
    }
    const hydrated = asHydrated(entries, stages)
    if (served === hydrated) continue
    const at = [...served].findIndex((c, j) => hydrated[j] !== c)
    expect(hydrated.slice(at - 120, at + 120), after).toBe(served.slice(at - 120, at + 120))
  }
}

/** The stage in hand and another; all of them now and then. */
const stagesOf = (entries: Entry[]): readonly Stage[] =>
  entries.length % 5 === 0
    ? STAGES
    : [STAGE_OF_NEXT[nextStep(foldTape(entries))], STAGES[entries.length % STAGES.length]!]

describe('the job page is the same on the server and as it comes to life', { timeout: 120_000 }, () => {
  it.each(Object.keys(OLD) as (keyof typeof OLD)[])('old tape %s', (name) =>
    expectTheSame(OLD[name] as unknown as Entry[]),
  )
  it.each(COURSES)('course %i', (seed) => expectTheSame(randomCourse(seed)))
})
