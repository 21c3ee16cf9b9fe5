// What Keg says of a tape: every judge asked the same.
import {
  bookings,
  type BooksBeside,
  foldTape,
  holdStands,
  type HoldStands,
  inSystemNow,
  type InSystem,
  type JobState,
  judgeCharged,
  judgeRecovery,
  leakKnown,
  type NextStep,
  nextStep,
  type OpenPoint,
  openPoints,
  openTransfer,
  type Reference,
  stageProgress,
  type Stage,
  type StageProgress,
  toGoMg,
} from '#core/tape'
import type { Trade } from '#core/systems'
import { wholeAfter } from '#core/unsent'
import type { Verdict } from '#core/verdict'
import { type Hand, SYSTEM_ID } from './hand'

/** What of the machine is known from before a job. */
export interface Shelf {
  beside: BooksBeside
  whole: boolean
  trade: Trade
  /** By its plate; null: nobody can read it. */
  plateMg: number | null
}

export interface Said {
  state: JobState
  now: InSystem
  /** In the system by the books, mg. */
  booksMg: number
  next: NextStep
  points: OpenPoint[]
  hold: HoldStands
  leak: boolean
  toGoMg: number | undefined
  recovery: Verdict | undefined
  charged: Verdict | undefined
  progress: Record<Stage, StageProgress>
  running: boolean
}

export function referenceOf({ beside, whole, plateMg }: Shelf): Reference {
  const beforeMg = balance(beside)
  return {
    books: whole && beforeMg > 0 ? { massMg: beforeMg, sigmaMg: 20_000 } : null,
    inBooksMg: beforeMg,
    plate: plateMg === null ? null : { massMg: plateMg, sigmaMg: 0.01 * plateMg },
  }
}

export function asked(hand: Pick<Hand, 'entries'>, shelf: Shelf): Said {
  const state = foldTape(hand.entries)
  const reference = referenceOf(shelf)
  const context = {
    ...reference,
    trade: shelf.trade,
    metering: 'unknown' as const,
    plateSubcoolingK: null,
  }
  return {
    state,
    now: inSystemNow(state),
    booksMg: balance(shelf.beside) + gained(state, shelf.beside),
    next: nextStep(state, reference),
    points: openPoints(state, context),
    hold: holdStands(state),
    leak: leakKnown(state),
    toGoMg: toGoMg(state),
    recovery: judgeRecovery(state, reference),
    charged: judgeCharged(state),
    progress: stageProgress(state),
    running: openTransfer(state) !== undefined,
  }
}

/** By other jobs, mg. */
const balance = ({ others }: BooksBeside) =>
  others.reduce((sum, { changeMg }) => Math.max(0, sum + changeMg), 0)

/** What a job's tape moves into the system, mg. */
function gained(state: JobState, beside: BooksBeside): number {
  return bookings(state, beside).reduce(
    (sum, { from, to, massMg }) =>
      sum + (to.id === SYSTEM_ID ? massMg : 0) - (from.id === SYSTEM_ID ? massMg : 0),
    0,
  )
}

/** The shelf once a job is left: its movements become others'. */
export function shelved({ entries }: Pick<Hand, 'entries'>, shelf: Shelf): Shelf {
  const state = foldTape([...entries])
  const booked = bookings(state, shelf.beside)
  const others = [...shelf.beside.others]
  let lost = shelf.beside.lost.map((each) => ({ ...each }))
  for (const { from, to, massMg, at } of booked.toSorted((a, b) => a.at - b.at)) {
    if (to.id === SYSTEM_ID) {
      others.push({ at, changeMg: massMg })
      if (from.kind === 'cylinder') lost = []
      if (from.kind === 'lost') take(lost, massMg)
    }
    if (from.id === SYSTEM_ID) {
      others.push({ at, changeMg: -massMg })
      if (to.kind === 'lost') lost.push({ at, massMg })
    }
  }
  return { ...shelf, beside: { others, lost }, whole: wholeAfter(state, shelf.whole) }
}

function take(lost: { massMg: number }[], massMg: number): void {
  let leftMg = massMg
  for (const each of lost) {
    const backMg = Math.min(leftMg, each.massMg)
    each.massMg -= backMg
    leftMg -= backMg
  }
}
