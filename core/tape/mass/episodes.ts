import { type RecoveryEndKind, restMg } from '../../recovery'
import type { Trade } from '../../systems'
import { STANDARD_ATMOSPHERE_PA } from '../../units'
import { gaugeAt } from './instruments'
import { levelHere } from './level'
import type { JobState } from '../envelope/state'
import { netMg, type Transfer } from './weighings'

/**
 * What is in the system from one emptying to the next. It ends when the system has been emptied (said and, where
 * readings exist, borne out); the next one begins with the first gas that goes in after that.
 */
export interface Episode {
  /** as-found: with whatever was in it when the job began. empty: after an emptying. */
  began: 'as-found' | 'empty'
  outMg: number
  outSigmaMg: number
  inMg: number
  inSigmaMg: number
  /** In it beyond what it began with, after each of them: never below nothing where it began empty. The books say the same. */
  heldMg: number
  /** Out less in, up to the last pull: what a recovery is judged by in an episode that was found. */
  recoveredMg: number
  /** Left in a machine that was not purged: out of the system, in no cylinder. */
  keptMg: number
  pulls: number
  charges: number
  /** The last end said, while no pull has followed. */
  end?: EpisodeEnd
  /** Its charge was shut into another part, and let back. */
  shutIn?: { at: number; letBackAt?: number }
  /** Empty since. */
  emptiedAt?: number
  /** The ends that said so, and those that a gauge, or more gas, disproved. */
  emptiedBy: string[]
  disproved: string[]
  /** Empty by a deep vacuum, without anybody having said what became of the gas. */
  unaccounted?: boolean
  /** Since when: the job's beginning, or the first gas that went in. */
  beganAt: number
  firstPullAt?: number
  /** What the last transfer did; undefined: none yet. */
  lastWas?: Transfer['use']
  lastAt?: number
}

export interface EpisodeEnd {
  entryId: string
  at: number
  how: RecoveryEndKind
  /** Low pressure noted after the last pull that says otherwise, absolute Pa. */
  contradictedPa?: number
}

/** A pump is at work: far below any level that a recovery goes to (the lowest is 25 mm of mercury, 3.3 kPa). */
export const DEEP_VACUUM_PA = 3_000
/** Empty, whoever took it out. */
const EMPTIES: RecoveryEndKind[] = ['emptied', 'lost', 'elsewhere', 'never-filled']

type Event =
  | { at: number; order: number; transfer: Transfer }
  | { at: number; order: number; end: JobState['recoveryEnds'][number] }
  | { at: number; order: number; kept: JobState['rigKept'][number] }
  | { at: number; order: number; deepVacuum: true }
  | { at: number; order: number; valvesOpened: true }

/** Transfers (by their end), ends, deep vacuums and valves opened again, in tape order. */
export function eventsOf(state: JobState): Event[] {
  const events: Event[] = [
    ...state.transfers.map((transfer) => ({ at: transferAt(transfer), order: transfer.order, transfer })),
    ...state.recoveryEnds.map((end) => ({ at: end.at, order: end.order, end })),
    ...state.rigKept.map((kept) => ({ at: kept.at, order: kept.order, kept })),
    ...state.deepVacuums.map((each) => ({ ...each, deepVacuum: true as const })),
    ...state.steps
      .filter(({ step }) => step === 'valves-opened')
      .map((each) => ({ ...each, valvesOpened: true as const })),
  ]
  return events.sort((a, b) => a.order - b.order)
}

/** When a transfer is booked: at its end, or as far as it has come. */
export function transferAt(transfer: Transfer): number {
  return transfer.endedAt ?? transfer.weighings.at(-1)!.at
}

export function episodesOf(state: JobState): Episode[] {
  const episodes: Episode[] = [blank('as-found', -Infinity)]
  let now = episodes[0]!
  for (const event of eventsOf(state)) {
    if ('transfer' in event) {
      const { transfer, at } = event
      if (now.emptiedAt !== undefined && goesIn(transfer))
        episodes.push((now = blank('empty', transfer.startedAt)))
      add(now, transfer, at)
      while (now.began === 'empty' && wasNotEmpty(now)) now = joined(episodes)
    } else if ('kept' in event) {
      now.keptMg += event.kept.massMg
      hold(now, -event.kept.massMg)
    } else if ('end' in event) {
      const { end } = event
      const contradictedPa = end.how === 'emptied' ? pressureAgainst(state, now, end) : undefined
      if (contradictedPa !== undefined) now.disproved.push(end.entryId)
      now.end = { ...end, ...(contradictedPa === undefined ? {} : { contradictedPa }) }
      if (EMPTIES.includes(end.how) && contradictedPa === undefined) {
        now.emptiedAt ??= end.at
        now.emptiedBy.push(end.entryId)
        delete now.unaccounted
      } else if (end.how === 'shut-in') {
        // The vacuum is that of the rest of the circuit.
        now.shutIn = { at: end.at }
        // Who said before that it was empty had it wrong: the charge is in there.
        now.disproved.push(...now.emptiedBy)
        now.emptiedBy = []
        delete now.emptiedAt
        delete now.unaccounted
      }
    } else if ('valvesOpened' in event) {
      letBack(now, event.at)
    } else if (now.emptiedAt === undefined && shutInAt(now) === undefined) {
      now.emptiedAt = event.at
      now.unaccounted = true
    }
  }
  return episodes
}

function blank(began: Episode['began'], beganAt: number): Episode {
  return {
    began,
    beganAt,
    outMg: 0,
    outSigmaMg: 0,
    inMg: 0,
    inSigmaMg: 0,
    heldMg: 0,
    recoveredMg: 0,
    keptMg: 0,
    pulls: 0,
    charges: 0,
    emptiedBy: [],
    disproved: [],
  }
}

function add(episode: Episode, transfer: Transfer, at: number) {
  episode.lastWas = transfer.use
  episode.lastAt = at
  const massMg = netMg(transfer)
  if (transfer.use === 'charge') {
    episode.inMg += massMg
    episode.inSigmaMg = Math.round(Math.hypot(episode.inSigmaMg, transfer.sigmaMg))
    episode.charges++
    hold(episode, massMg)
    return
  }
  episode.outMg += massMg
  episode.outSigmaMg = Math.round(Math.hypot(episode.outSigmaMg, transfer.sigmaMg))
  episode.recoveredMg = recoveredIn(episode)
  episode.pulls++
  episode.firstPullAt ??= transfer.startedAt
  delete episode.end
  letBack(episode, transfer.startedAt)
  hold(episode, -massMg)
  // So much was still in it: it was not empty.
  if (episode.emptiedAt !== undefined && massMg > leftBehindMg(episode)) notEmptied(episode)
}

/** Gas into the system: charged, or flowed back out of the cylinder that it was pulled into. */
const goesIn = (transfer: Transfer) => transfer.use === 'charge' || netMg(transfer) < -2 * transfer.sigmaMg

function hold(episode: Episode, changeMg: number) {
  episode.heldMg += changeMg
  if (episode.began === 'empty') episode.heldMg = Math.max(0, episode.heldMg)
}

const recoveredIn = ({ began, outMg, inMg }: Episode) => outMg - (began === 'as-found' ? inMg : 0)

/** What comes out of a circuit that was down to its level: what oil and corners gave off since, and what scales cannot tell. */
const leftBehindMg = ({ outMg, outSigmaMg, inSigmaMg }: Episode) =>
  restMg({ massMg: outMg }) + 2 * Math.hypot(outSigmaMg, inSigmaMg)

/** More has come out than ever went in: it was said to be empty before, and was not. */
const wasNotEmpty = (episode: Episode) =>
  episode.outMg + episode.keptMg - Math.max(0, episode.inMg) > leftBehindMg(episode)

/** The last two are one: between them it never was empty. */
function joined(episodes: Episode[]): Episode {
  const after = episodes.pop()!
  const now = episodes.at(-1)!
  notEmptied(now)
  now.outMg += after.outMg
  now.inMg += after.inMg
  now.outSigmaMg = Math.round(Math.hypot(now.outSigmaMg, after.outSigmaMg))
  now.inSigmaMg = Math.round(Math.hypot(now.inSigmaMg, after.inSigmaMg))
  now.keptMg += after.keptMg
  now.pulls += after.pulls
  now.charges += after.charges
  now.disproved.push(...after.disproved, ...after.emptiedBy)
  now.heldMg = 0
  hold(now, now.inMg - now.outMg - now.keptMg)
  now.recoveredMg = recoveredIn(now)
  if (after.firstPullAt !== undefined) now.firstPullAt ??= after.firstPullAt
  if (after.lastWas) now.lastWas = after.lastWas
  if (after.lastAt !== undefined) now.lastAt = after.lastAt
  return now
}

function notEmptied(episode: Episode) {
  episode.disproved.push(...episode.emptiedBy)
  episode.emptiedBy = []
  delete episode.emptiedAt
  delete episode.unaccounted
  delete episode.end
}

/** The newest low pressure noted between the last pull and an end, where it stands above the level that the end was held against. */
function pressureAgainst(
  state: JobState,
  episode: Episode,
  { at, levelPa }: JobState['recoveryEnds'][number],
): number | undefined {
  if (episode.lastAt === undefined) return undefined
  const noted = state.pressureNotes.findLast(
    (each) => each.point === 'low' && each.at >= episode.lastAt! && each.at <= at,
  )
  if (!noted) return undefined
  const atmospherePa = noted.atmospherePa ?? STANDARD_ATMOSPHERE_PA
  const level = levelPa ?? levelThen(state, at, atmospherePa) ?? atmospherePa
  // What its gauge may be off: what stands higher than that is not down.
  return noted.value > level + gaugeAt(state, noted.at).value ? noted.value : undefined
}

/**
 * Of ends that were noted without their level: the least that any system of the gas had to come down to, by what was known then. A
 * low-pressure gas is in no vehicle.
 */
function levelThen(state: JobState, at: number, atmospherePa: number): number | undefined {
  const by = <Noted extends { at: number }>(noted: readonly Noted[]) => noted.filter((each) => each.at <= at)
  const then = { ...state, leakChecks: by(state.leakChecks), steps: by(state.steps) }
  const of = (trade: Trade) => levelHere(then, { chargeKg: null, trade }, atmospherePa)
  const stationary = of('stationary')
  if (!stationary || stationary.pressureClass === 'low') return stationary?.levelPa
  return Math.max(stationary.levelPa, of('vehicle')!.levelPa)
}

/**
 * Whether gas was recovered in an episode, rather than a little taken out again of what had just been put in: by what
 * was said, or by more than half of it being out.
 */
export function isRecovered(episode: Episode): boolean {
  if (episode.end !== undefined) return true
  if (episode.pulls === 0) return false
  return episode.began === 'as-found'
    ? episode.lastWas === 'recover' || episode.charges === 0
    : episode.outMg > episode.inMg / 2
}

/**
 * Since when the circuit may be opened: emptied, or its charge shut into another part, with nothing charged since.
 * @returns undefined while there is gas in it
 */
export function openedAt({ episodes }: Pick<JobState, 'episodes'>): number | undefined {
  const now = episodes.at(-1)!
  const shutIn = shutInAt(now)
  if (shutIn !== undefined) return shutIn
  if (now.emptiedAt === undefined) return undefined
  // Emptied before this job began: nothing here came before it.
  return now.unaccounted && now.pulls + now.charges === 0 ? -Infinity : now.emptiedAt
}

/** Since when its charge stands behind shut valves; undefined: it does not. */
export const shutInAt = ({ shutIn }: Episode): number | undefined =>
  shutIn && shutIn.letBackAt === undefined ? shutIn.at : undefined

function letBack({ shutIn }: Episode, at: number) {
  if (shutIn) shutIn.letBackAt ??= at
}

/** Nothing is in it, and nothing waits behind a valve. */
export const isEmpty = ({ episodes }: Pick<JobState, 'episodes'>): boolean =>
  episodes.at(-1)!.emptiedAt !== undefined

/** The episode that a recovery is judged by: the last one that was recovered from. */
export function recoveredEpisode(state: Pick<JobState, 'episodes'>): Episode | undefined {
  return state.episodes.findLast((each) => isRecovered(each) || (each.began === 'as-found' && each.pulls > 0))
}

/** What was weighed into the system since it was empty, mg; null: nothing, or it was not empty. */
export function weighedSinceEmpty({ episodes }: Pick<JobState, 'episodes'>): number | null {
  const now = episodes.at(-1)!
  const weighed = now.began === 'empty' && now.emptiedAt === undefined && now.heldMg > 0
  return weighed ? now.heldMg : null
}

/** Whether the system was emptied in this job, all of it accounted for: from then on the books know what is in it. */
export const everEmptied = ({ episodes }: Pick<JobState, 'episodes'>): boolean =>
  episodes.some((each) => each.emptiedAt !== undefined && !each.unaccounted)
